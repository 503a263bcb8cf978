import type { CookOut, CookPlan, CookStep, ScheduleLine } from "../api/types";
import { usePointable } from "../frame/pointing";
import { Button } from "../ui/Parts";
import { freshId } from "../app/ids";
import { withOwn } from "./cookApi";
import { StepDetail } from "./StepDetail";

interface StepsListProps {
  cook: CookOut;
  plan: CookPlan;
  lines: readonly ScheduleLine[];
  chosen: string | null;
  onChoose: (step: string | null) => void;
  change: (edit: (old: CookPlan) => CookPlan) => void;
}

/** All steps in their order, by the clock; one of them open. */
export function StepsList({ cook, plan, lines, chosen, onChoose, change }: StepsListProps) {
  const starts = new Map<string, ScheduleLine>();
  for (const line of lines) if (!starts.has(line.step)) starts.set(line.step, line);
  const order = [...cook.steps].sort(
    (one, other) =>
      (starts.get(one.id)?.start_min ?? Infinity) - (starts.get(other.id)?.start_min ?? Infinity),
  );
  const leftOut = plan.changes.filter((one) => one.left_out);
  return (
    <section aria-label="Steps" className="min-w-0">
      <ol className="divide-y divide-line border-y border-line">
        {order.map((step, number) => (
          <Row
            key={step.id}
            step={step}
            number={number + 1}
            line={starts.get(step.id)}
            before={order[number - 1] && starts.get(order[number - 1]?.id ?? "")}
            open={chosen === step.id}
            onToggle={() => onChoose(chosen === step.id ? null : step.id)}
          >
            <StepDetail step={step} cook={cook} plan={plan} change={change} />
          </Row>
        ))}
      </ol>
      <div className="no-print mt-3 flex flex-wrap gap-x-4 gap-y-1 text-sm">
        <Button
          look="bare"
          onClick={() => {
            const id = freshId("step");
            change((old) => withOwn(old, id, chosen ?? order.at(-2)?.id ?? ""));
            onChoose(`own--${id}`);
          }}
        >
          Add a step{chosen ? " after the open one" : ""}
        </Button>
        {leftOut.map((one) => (
          <Button
            key={one.id}
            look="bare"
            onClick={() =>
              change((old) => ({
                ...old,
                changes: old.changes.filter((other) => other.id !== one.id),
              }))
            }
          >
            Bring back “{one.title}”
          </Button>
        ))}
      </div>
    </section>
  );
}

interface RowProps {
  step: CookStep;
  number: number;
  line: ScheduleLine | undefined;
  before: ScheduleLine | undefined;
  open: boolean;
  onToggle: () => void;
  children: React.ReactNode;
}

function Row({ step, number, line, before, open, onToggle, children }: RowProps) {
  const pointable = usePointable(step.layer_id || null);
  const newDay = line && line.day > 1 && line.day !== before?.day;
  return (
    <li className="break-inside-avoid">
      {newDay && <p className="pt-2 pb-1 text-sm font-semibold text-ink-2">Day {line.day}</p>}
      <button
        type="button"
        aria-expanded={open}
        className={`grid w-full grid-cols-[3rem_1.3rem_minmax(0,1fr)_auto] items-baseline gap-x-2 px-1 py-1.5 text-left hover:bg-linen data-pointed:bg-linen ${open ? "bg-linen" : ""}`}
        onClick={onToggle}
        {...pointable}
      >
        <span className="text-ink-2">{line?.start ?? "–"}</span>
        <span className="text-right text-sm text-ink-2">{number}</span>
        <span className="min-w-0">
          <span className="font-semibold">{step.title}</span>{" "}
          <span className="text-sm text-ink-2">
            {step.layer}
            {step.round_words && ` · ${step.rounds} rounds, ${step.round_words}`}
            {step.changed && " · changed"}
            {step.own && " · your own"}
          </span>
          {step.problem && <span className="block text-sm text-berry">{step.problem}</span>}
          {step.note && !open && <span className="block text-sm text-ink-2">{step.note}</span>}
        </span>
        <Figures step={step} />
      </button>
      <div className={open ? "pr-1 pb-3 pl-[5.3rem]" : "hidden print:block print:pl-[5.3rem]"}>
        {children}
      </div>
    </li>
  );
}

/** How hot, and how long, at the row's end. */
function Figures({ step }: { step: CookStep }) {
  const times = [step.hands_on, step.wait && `+ ${step.wait}`].filter(Boolean).join(" ");
  return (
    <span className="flex gap-3 whitespace-nowrap">
      <span className="text-ink-2">{times}</span>
      <span className="w-28 text-right font-semibold">{endOf(step)}</span>
    </span>
  );
}

/** By what a step is known to be done, in a word or two. */
function endOf(step: CookStep): string | undefined {
  if (step.end_by === "weight") return step.end_weight;
  if (step.end_by === "cue") return step.cues.find((one) => one.stage === "right")?.short;
  return step.end_by ? step.heat?.aim : step.heat?.window;
}
