import type { ReactNode } from "react";
import { Link, NavLink } from "react-router";
import type { Frame, Ready } from "../api/types";
import { leftAt } from "../app/left";
import { STEPS } from "../app/steps";
import { useLocation, useNavigate } from "react-router";

interface PathProps {
  matchId: string;
  frame: Frame;
  estimate: Ready | null;
  children: ReactNode;
}

/** The steps in order, and what each still lacks. */
export function Path({ matchId, frame, estimate, children }: PathProps) {
  const words = new Map(frame.path.map((step) => [step.step, step.words]));
  if (estimate) words.set("estimate", estimate.settle_words);
  return (
    <header className="no-print flex min-h-[52px] shrink-0 bg-fern-900 max-md:flex-wrap text-white">
      <Link
        to="/"
        className="flex w-[292px] shrink-0 flex-col justify-center px-5 hover:bg-fern-950 max-[1279px]:w-[180px] max-lg:w-auto max-lg:min-w-0 max-lg:flex-1"
        title="All matches"
      >
        <span className="truncate font-head text-lg leading-tight font-semibold">{frame.name}</span>
        <span className="truncate text-sm text-fern-100">{frame.about}</span>
      </Link>
      <nav aria-label="Steps" className="flex min-w-0 flex-1 max-lg:hidden">
        {STEPS.map((step) => (
          <NavLink
            key={step.id}
            to={`${step.id}${leftAt(matchId, step.id)}`}
            className={({ isActive }) =>
              `flex max-w-52 min-w-0 flex-1 flex-col justify-center border-l border-white/15 px-2 max-[1279px]:px-1.5 ${isActive ? "bg-paper text-ink" : "hover:bg-fern-950"}`
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
      <StepMenu matchId={matchId} words={words} />
      {children}
    </header>
  );
}

/** The path where there is no room for it side by side: the step that is open, and the others behind it. */
function StepMenu({ matchId, words }: { matchId: string; words: ReadonlyMap<string, string> }) {
  const { pathname } = useLocation();
  const navigate = useNavigate();
  const open = STEPS.find((step) => pathname === `/m/${matchId}/${step.id}`)?.id ?? "";
  return (
    <div className="flex min-w-0 flex-1 items-center px-2 lg:hidden">
      <select
        aria-label="Step"
        className="w-full rounded border border-white/30 bg-fern-900 px-2 py-1.5 font-head font-semibold"
        value={open}
        onChange={(event) =>
          void navigate(`/m/${matchId}/${event.target.value}${leftAt(matchId, event.target.value)}`)
        }
      >
        {!open && <option value="">Step</option>}
        {STEPS.map((step) => (
          <option key={step.id} value={step.id}>
            {step.title}
            {words.get(step.id) ? `: ${words.get(step.id)}` : ""}
          </option>
        ))}
      </select>
    </div>
  );
}
