import type { Run } from "../api/types";
import { Cell } from "../ui/Cell";
import { countdown } from "./countdown";
import type { NewEntry } from "./runApi";
import { StoveButton } from "./StoveButton";

interface TimersProps {
  run: Run;
  gone: number;
  log: (...entries: NewEntry[]) => void;
}

/** Timers that go on whatever step is open, and on every tablet. */
export function Timers({ run, gone, log }: TimersProps) {
  if (!run.has_begun) return null;
  const free = `timer-${run.last + 1}`;
  return (
    <section aria-label="Timers">
      <h2 className="mb-1 text-lg">Timers</h2>
      <ul className="space-y-2">
        {run.timers.map((one) => {
          const left = one.left_s - gone;
          return (
            <li
              key={one.id}
              className={`flex items-center justify-between gap-3 rounded-lg border-2 px-3 py-2 ${left <= 0 ? "border-amber bg-amber-wash" : "border-line bg-card"}`}
            >
              <span className="min-w-0 flex-1 text-sm">{one.title}</span>
              <span
                role="timer"
                aria-label={`${one.title}, left`}
                className="font-head text-2xl font-semibold"
              >
                {countdown(left)}
              </span>
              <StoveButton
                aria-label={`Stop the timer of ${one.title}`}
                onClick={() => log({ kind: "timer off", step: one.step, of: one.id })}
              >
                Stop
              </StoveButton>
            </li>
          );
        })}
      </ul>
      <Cell
        showLabel
        label="A timer of your own, minutes"
        className="mt-2 [&_input]:min-h-11"
        value=""
        placeholder="10"
        onCommit={(text) => text.trim() && log({ kind: "timer", of: free, text })}
      />
    </section>
  );
}
