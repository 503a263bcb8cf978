import type { CookStep, Doing, Run } from "../api/types";
import { Notice } from "../ui/Parts";
import { countdown } from "./countdown";
import type { NewEntry } from "./runApi";
import { StoveButton } from "./StoveButton";

interface StoveStepProps {
  step: CookStep;
  doing: Doing;
  run: Run;
  /** Seconds since the server said how things stand, as the cook's clock runs. */
  gone: number;
  log: (...entries: NewEntry[]) => void;
}

/** The step at hand: what it is, how hot and how long, what goes in, what must be true before. */
export function StoveStep({ step, doing, run, gone, log }: StoveStepProps) {
  const at = { step: step.id, round: doing.round };
  return (
    <section aria-label="The step at hand" className="space-y-4">
      <div className="flex flex-wrap items-start justify-between gap-4">
        <div>
          <p className="text-ink-2">
            {step.layer || "The pieces"}
            {doing.rounds > 1 && ` · round ${doing.round} of ${doing.rounds}, ${step.round_words}`}
          </p>
          <h2 className="text-3xl">{step.title}</h2>
        </div>
        <Figures step={step} />
      </div>
      <div className="flex flex-wrap gap-3">
        {(doing.state === "ready" || doing.state === "waits") && (
          <StoveButton
            look="main"
            onClick={() =>
              log(
                { kind: "opened", ...at },
                ...(step.hands_on_min <= 0 && step.wait_min > 0
                  ? [{ kind: "timer" as const, ...at, value: step.wait_min, text: step.title }]
                  : []),
              )
            }
          >
            Begin this step
          </StoveButton>
        )}
        {doing.state === "open" && (
          <StoveButton look="main" onClick={() => log({ kind: "done", ...at })}>
            Done
          </StoveButton>
        )}
        {doing.state === "done" && (
          <StoveButton onClick={() => log({ kind: "undone", ...at })}>Not done after all</StoveButton>
        )}
        {doing.state === "open" && step.wait_min > 0 && !run.timers.some((one) => one.id === step.id) && (
          <StoveButton onClick={() => log({ kind: "timer", ...at, value: step.wait_min, text: step.title })}>
            Start {step.wait}
          </StoveButton>
        )}
      </div>
      {doing.closing.map((one) => (
        <Closing key={one.made} made={one.made} leftS={one.left_min * 60 - gone} back={one.back} />
      ))}
      {doing.state === "waits" && (
        <Notice tone="plain">
          Waits for: {doing.waits_for.join(", ")}. It can be looked at, and begun all the same.
        </Notice>
      )}
      {(doing.state === "ready" || doing.state === "waits") && <Before step={step} />}
      {step.cautions.map((one) => (
        <Notice key={one.topic} tone="berry">
          <span className="font-semibold">{one.topic}. </span>
          {one.sentence}
        </Notice>
      ))}
      {step.uses.length > 0 && (
        <ul className="max-w-xl divide-y divide-line border-y border-line text-xl">
          {step.uses.map((use) => (
            <li key={use.line_id} className="flex justify-between gap-4 py-1.5">
              <span>
                {use.name}
                {use.how && <span className="block text-base text-ink-2">{use.how}</span>}
              </span>
              <span className="shrink-0 font-semibold">
                {use.amount}
                {use.each && <span className="font-normal text-ink-2"> ({use.each})</span>}
              </span>
            </li>
          ))}
        </ul>
      )}
      <p className="max-w-2xl text-lg">{step.words}</p>
      {step.reason && <p className="max-w-2xl text-lg text-ink-2">{step.reason}</p>}
      {step.note && <p className="max-w-2xl text-lg font-semibold">{step.note}</p>}
    </section>
  );
}

/** How hot or how heavy, and how long: what is read from across the table. */
function Figures({ step }: { step: CookStep }) {
  const { heat } = step;
  const cue = step.end_by === "cue" ? step.cues.find((one) => one.stage === "right") : undefined;
  const main = cue ? cue.short : step.end_by === "weight" ? step.end_weight : heat?.aim;
  const beneath =
    step.end_by === "weight"
      ? "left in the pan"
      : cue
        ? `by eye, ${heat ? `about ${heat.aim}` : cue.stands_for}`
        : heat && `${heat.of}, ${heat.window}${heat.sea_level ? `; ${heat.sea_level} at sea level` : ""}`;
  const times = [step.hands_on && `${step.hands_on} hands on`, step.wait && `${step.wait} waiting`].filter(
    Boolean,
  );
  return (
    <div className="text-right">
      {main && <p className="font-head text-5xl leading-none font-semibold">{main}</p>}
      {main && <p className="text-ink-2">{beneath}</p>}
      {step.end_by === "heat" && step.end_weight && (
        <p className="text-ink-2">then {step.end_weight} are left in the pan</p>
      )}
      <p className={main ? "text-ink-2" : "font-head text-2xl font-semibold"}>{times.join(", ")}</p>
    </div>
  );
}

function Before({ step }: { step: CookStep }) {
  if (!step.gate && !step.have_ready.length) return null;
  return (
    <div className="rounded-lg border border-line bg-card px-4 py-3 text-lg">
      {step.gate && (
        <p>
          <span className="font-semibold">Before: </span>
          {step.gate}
        </p>
      )}
      {step.have_ready.length > 0 && (
        <fieldset className="mt-1">
          <legend className="font-semibold">Weighed and at hand? Once it is there, nothing waits.</legend>
          <div className="flex flex-wrap gap-x-5">
            {step.have_ready.map((one) => (
              <label key={one} className="flex min-h-11 items-center gap-2">
                <input type="checkbox" className="size-5 accent-fern-700" />
                {one}
              </label>
            ))}
          </div>
        </fieldset>
      )}
    </div>
  );
}

function Closing({ made, leftS, back }: { made: string; leftS: number; back: string }) {
  return leftS >= 0 ? (
    <Notice>
      “{made}” waits {countdown(leftS)} more.
    </Notice>
  ) : (
    <Notice tone="berry">
      “{made}” has waited {countdown(-leftS)} too long. {back}
    </Notice>
  );
}
