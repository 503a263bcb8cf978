import type { ReactNode } from "react";
import { Link, NavLink } from "react-router";
import type { Estimate, StudyOut } from "../api/types";

const TITLES: Record<string, string> = { study: "Study", estimate: "Estimate", batch: "Batch" };

/** The steps in order, and what each still lacks. */
export function Path({
  study,
  estimate,
  children,
}: {
  study: StudyOut;
  estimate: Estimate | null;
  children: ReactNode;
}) {
  const { name, maker, region, label } = study.study;
  const about = [maker, label?.net_weight, `${region} label`].filter(Boolean).join(" · ");
  return (
    <header className="no-print flex h-[60px] shrink-0 bg-fern-900 text-white">
      <Link
        to="/"
        className="flex w-[292px] shrink-0 flex-col justify-center px-5 hover:bg-fern-950"
        title="All matches"
      >
        <span className="truncate font-head text-lg leading-tight font-semibold">
          {name || "Unnamed match"}
        </span>
        <span className="truncate text-sm text-fern-100">{about}</span>
      </Link>
      <nav aria-label="Steps" className="flex min-w-0 flex-1">
        {study.path.map((step) => (
          <NavLink
            key={step.step}
            to={step.step}
            className={({ isActive }) =>
              `flex max-w-52 min-w-0 flex-1 flex-col justify-center border-l border-white/15 px-5 ${isActive ? "bg-paper text-ink" : "hover:bg-fern-950"}`
            }
          >
            {({ isActive }) => (
              <>
                <span className="font-head font-semibold">{TITLES[step.step] ?? step.step}</span>
                <span
                  title={step.words}
                  className={`truncate text-sm ${isActive ? "text-ink-2" : "text-fern-100"}`}
                >
                  {step.step === "estimate" && estimate ? settleWords(estimate.to_settle) : step.words}
                </span>
              </>
            )}
          </NavLink>
        ))}
      </nav>
      {children}
    </header>
  );
}

function settleWords(count: number): string {
  if (count === 0) return "nothing fights";
  return count === 1 ? "1 thing to settle" : `${count} things to settle`;
}
