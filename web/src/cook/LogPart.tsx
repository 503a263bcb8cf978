import { useState } from "react";
import type { CookStep, Doing, Run } from "../api/types";
import { Cell } from "../ui/Cell";
import type { NewEntry } from "./runApi";
import { StoveButton } from "./StoveButton";

interface LogPartProps {
  step: CookStep;
  doing: Doing;
  run: Run;
  log: (...entries: NewEntry[]) => void;
  onRescue: () => void;
}

const STAGES: Record<string, string> = { early: "not yet", right: "now", late: "too far" };

/** What is seen, read and noted at this step, in one press; and what was logged so far. */
export function LogPart({ step, doing, run, log, onRescue }: LogPartProps) {
  const at = { step: step.id, round: doing.round };
  const [altering, setAltering] = useState(false);
  const cueFirst = step.end_by === "cue";
  const cues = step.cues.length > 0 && (
    <div>
      <h3 className="mb-1 text-lg">What do you see?</h3>
      <div className="flex flex-wrap gap-2">
        {step.cues.map((cue) => (
          <StoveButton
            key={cue.id}
            className="text-left"
            onClick={() => log({ kind: "cue", ...at, of: cue.id })}
          >
            <span className={cue.stage === "right" ? "font-semibold" : ""}>{cue.words}</span>{" "}
            <span className="text-sm text-ink-2">
              {STAGES[cue.stage]}
              {cue.stands_for && `, ${cue.stands_for}`}
            </span>
          </StoveButton>
        ))}
      </div>
    </div>
  );
  return (
    <section aria-label="Log" className="space-y-4 border-t border-line pt-4">
      {cueFirst && cues}
      <div className="flex flex-wrap items-end gap-3" data-cells>
        <Cell
          showLabel
          label="Thermometer"
          className="w-32 text-lg [&_input]:min-h-11"
          value=""
          placeholder={step.heat?.aim ?? ""}
          onCommit={(text) => text.trim() && log({ kind: "reading", ...at, of: "thermometer", text })}
        />
        <Cell
          showLabel
          label="Scale"
          className="w-32 text-lg [&_input]:min-h-11"
          value=""
          placeholder={step.end_weight}
          onCommit={(text) => text.trim() && log({ kind: "reading", ...at, of: "scale", text })}
        />
        <Cell
          showLabel
          label="Note"
          most={2000}
          className="min-w-56 flex-1 text-lg [&_input]:min-h-11"
          value=""
          onCommit={(text) => text.trim() && log({ kind: "note", ...at, text })}
        />
        {step.uses.length > 0 && (
          <StoveButton aria-expanded={altering} onClick={() => setAltering(!altering)}>
            Another amount went in
          </StoveButton>
        )}
        {step.rescues.length > 0 && <StoveButton onClick={onRescue}>Something is wrong</StoveButton>}
      </div>
      {altering && (
        <div className="flex flex-wrap gap-3" data-cells>
          {step.uses.map((use) => (
            <Cell
              key={use.line_id}
              showLabel
              label={`${use.name}, went in`}
              className="w-52 [&_input]:min-h-11"
              value=""
              placeholder={use.amount}
              onCommit={(text) => text.trim() && log({ kind: "amount", ...at, of: use.line_id, text })}
            />
          ))}
        </div>
      )}
      {run.as_cooked && <p className="max-w-2xl text-lg">{run.as_cooked}</p>}
      {!cueFirst && cues}
      {run.log.length > 0 && (
        <div>
          <h3 className="mb-1 text-lg">Logged</h3>
          <ol className="text-ink-2">
            {run.log.slice(0, 8).map((one) => (
              <li key={one.number} className="flex gap-3">
                <time className="w-16 shrink-0" dateTime={new Date(one.at_ms).toISOString()}>
                  {new Date(one.at_ms).toLocaleTimeString([], {
                    hour: "2-digit",
                    minute: "2-digit",
                    second: "2-digit",
                    hour12: false,
                  })}
                </time>
                <span>{one.words}</span>
              </li>
            ))}
          </ol>
        </div>
      )}
    </section>
  );
}
