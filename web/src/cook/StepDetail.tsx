import type { CookOut, CookPlan, CookStep, StepChange } from "../api/types";
import { Cell, told } from "../ui/Cell";
import { Button, Notice } from "../ui/Parts";
import { Select } from "../ui/Select";
import { withChange, withOwnChanged, withoutOwn } from "./cookApi";

interface StepDetailProps {
  step: CookStep;
  cook: CookOut;
  plan: CookPlan;
  change: (edit: (old: CookPlan) => CookPlan) => void;
}

/** All there is to know of a step, and what of it can be changed. */
export function StepDetail({ step, cook, plan, change }: StepDetailProps) {
  return (
    <div className="space-y-2">
      {step.gate && (
        <p>
          <span className="font-semibold">Before: </span>
          {step.gate}
        </p>
      )}
      {step.have_ready.length > 0 && (
        <p>
          <span className="font-semibold">At hand: </span>
          {step.have_ready.join(", ")}. Once it is there, nothing waits.
        </p>
      )}
      {step.uses.length > 0 && (
        <ul className="grid max-w-md grid-cols-[1fr_auto] gap-x-4">
          {step.uses.map((use) => (
            <li key={use.line_id} className="contents">
              <span>
                {use.name}
                {use.how && <span className="block text-sm text-ink-2">{use.how}</span>}
              </span>
              <span className="text-right">
                {use.amount}
                {use.each && <span className="text-ink-2"> ({use.each})</span>}
              </span>
            </li>
          ))}
        </ul>
      )}
      <p className="max-w-2xl">{step.words}</p>
      <Ends step={step} />
      {step.reason && <p className="max-w-2xl text-ink-2">{step.reason}</p>}
      {step.cautions.map((one) => (
        <Notice key={one.topic} tone="berry">
          <span className="font-semibold">{one.topic}. </span>
          {one.sentence}
        </Notice>
      ))}
      <div className="no-print">
        {step.own ? (
          <OwnFields step={step} cook={cook} plan={plan} change={change} />
        ) : (
          <Changes step={step} cook={cook} plan={plan} change={change} />
        )}
      </div>
    </div>
  );
}

/** By what it is known to be done: heat, weight, and what is seen. */
function Ends({ step }: { step: CookStep }) {
  const { heat, end_weight: weight, cues } = step;
  const right = cues.filter((one) => one.stage === "right");
  const said = [
    heat &&
      `${heat.aim} ${heat.of}, ${heat.window}${heat.sea_level ? ` (${heat.sea_level} at sea level)` : ""}`,
    weight && `${weight} left in the pan${step.end_water ? `, ${step.end_water}` : ""}`,
    right.length > 0 && right.map((one) => one.words).join("; or "),
    step.window,
  ].filter(Boolean);
  return said.length ? <p className="text-ink-2">{said.join(" · ")}</p> : null;
}

function Changes({ step, cook, plan, change }: StepDetailProps) {
  const known = plan.changes.find((one) => one.id === step.id);
  const cells = cook.changes.find((one) => one.id === step.id)?.cells;
  const set = (part: Partial<StepChange>) => change((old) => withChange(old, step, part));
  return (
    <details className="text-sm">
      <summary className="cursor-pointer text-fern-700 underline decoration-fern-200 underline-offset-2">
        Change this step
      </summary>
      <div className="mt-2 flex flex-wrap items-start gap-2" data-cells>
        <Cell
          showLabel
          label="Hands on"
          className="w-28"
          placeholder={step.hands_on || "0 min"}
          value={known?.hands_on ?? ""}
          {...told(cells?.hands_on)}
          onCommit={(hands_on) => set({ hands_on })}
        />
        <Cell
          showLabel
          label="Waiting"
          className="w-28"
          placeholder={step.wait || "0 min"}
          value={known?.wait ?? ""}
          {...told(cells?.wait)}
          onCommit={(wait) => set({ wait })}
        />
        <Cell
          showLabel
          label="Heat"
          className="w-28"
          placeholder={step.heat?.aim ?? "none"}
          value={known?.heat ?? ""}
          {...told(cells?.heat)}
          onCommit={(heat) => set({ heat })}
        />
        <Select
          showLabel
          label="Comes after"
          className="w-56"
          value={known?.after ?? ""}
          empty="as planned"
          options={cook.steps.filter((one) => one.id !== step.id).map((one) => [one.id, one.title] as const)}
          onChoose={(after) => set({ after })}
        />
        <Cell
          showLabel
          label="Note"
          className="w-72"
          most={2000}
          value={known?.note ?? ""}
          onCommit={(note) => set({ note })}
        />
        <Button look="bare" className="self-end pb-1" onClick={() => set({ left_out: true })}>
          Leave this step out
        </Button>
      </div>
    </details>
  );
}

function OwnFields({ step, cook, plan, change }: StepDetailProps) {
  const id = step.id.slice("own--".length);
  const own = plan.own.find((one) => one.id === id);
  const cells = cook.changes.find((one) => one.id === id)?.cells;
  if (!own) return null;
  return (
    <div className="flex flex-wrap items-start gap-2 text-sm" data-cells>
      <Cell
        showLabel
        label="What is done"
        className="w-64"
        most={120}
        arrives={own.title === ""}
        value={own.title}
        onCommit={(title) => change((old) => withOwnChanged(old, id, { title }))}
      />
      <Cell
        showLabel
        label="How"
        className="w-80"
        most={2000}
        value={own.note}
        onCommit={(note) => change((old) => withOwnChanged(old, id, { note }))}
      />
      <Cell
        showLabel
        label="Hands on"
        className="w-24"
        value={own.hands_on}
        {...told(cells?.hands_on)}
        onCommit={(hands_on) => change((old) => withOwnChanged(old, id, { hands_on }))}
      />
      <Cell
        showLabel
        label="Waiting"
        className="w-24"
        value={own.wait}
        {...told(cells?.wait)}
        onCommit={(wait) => change((old) => withOwnChanged(old, id, { wait }))}
      />
      <Cell
        showLabel
        label="Heat"
        className="w-24"
        value={own.heat}
        {...told(cells?.heat)}
        onCommit={(heat) => change((old) => withOwnChanged(old, id, { heat }))}
      />
      <Button look="bare" className="self-end pb-1" onClick={() => change((old) => withoutOwn(old, id))}>
        Take it out
      </Button>
    </div>
  );
}
