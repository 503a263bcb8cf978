import type { ReactNode } from "react";
import { Link, NavLink } from "react-router";
import type { Frame, Ready } from "../api/types";
import { STEPS } from "../app/steps";

interface PathProps {
  frame: Frame;
  estimate: Ready | null;
  children: ReactNode;
}

/** The steps in order, and what each still lacks. */
export function Path({ frame, estimate, children }: PathProps) {
  const words = new Map(frame.path.map((step) => [step.step, step.words]));
  if (estimate) words.set("estimate", estimate.settle_words);
  return (
    <header className="no-print flex h-[60px] shrink-0 bg-fern-900 text-white">
      <Link
        to="/"
        className="flex w-[292px] shrink-0 flex-col justify-center px-5 hover:bg-fern-950"
        title="All matches"
      >
        <span className="truncate font-head text-lg leading-tight font-semibold">{frame.name}</span>
        <span className="truncate text-sm text-fern-100">{frame.about}</span>
      </Link>
      <nav aria-label="Steps" className="flex min-w-0 flex-1">
        {STEPS.map((step) => (
          <NavLink
            key={step.id}
            to={step.id}
            className={({ isActive }) =>
              `flex max-w-52 min-w-0 flex-1 flex-col justify-center border-l border-white/15 px-5 ${isActive ? "bg-paper text-ink" : "hover:bg-fern-950"}`
            }
          >
            {({ isActive }) => (
              <>
                <span className="font-head font-semibold">{step.title}</span>
                <span
                  title={words.get(step.id)}
                  className={`truncate text-sm ${isActive ? "text-ink-2" : "text-fern-100"}`}
                >
                  {words.get(step.id)}
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
