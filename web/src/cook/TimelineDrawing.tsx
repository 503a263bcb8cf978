import type { CookSchedule, FrameLayer } from "../api/types";
import { usePointable } from "../frame/pointing";
import { lanesOf, ticksOf, type Bar } from "./lanes";

const ROW = 22;
const TOP = 18;

interface TimelineProps {
  schedule: CookSchedule;
  layers: readonly FrameLayer[];
  chosen: string | null;
  onChoose: (step: string) => void;
}

/** The schedule as lanes over time: hands on, and what stands on the hob, in the oven, in the cold. */
export function TimelineDrawing({ schedule, layers, chosen, onChoose }: TimelineProps) {
  const lanes = lanesOf(schedule.lines, schedule.start_min, schedule.end_min);
  const ticks = ticksOf(schedule.start_min, schedule.end_min);
  const tones = new Map(layers.map((layer) => [layer.layer_id, layer.tone]));
  return (
    <div
      role="group"
      aria-label={`Schedule: ${schedule.words}`}
      className="relative"
      style={{ height: TOP + lanes.length * ROW }}
    >
      <div className="absolute inset-y-0 right-0 left-20">
        {ticks.map((tick) => (
          <div
            key={tick.at}
            className="absolute inset-y-0 border-l border-line"
            style={{ left: `${100 * tick.at}%` }}
          >
            {tick.at < 0.95 && (
              <span className="pl-1 text-xs whitespace-nowrap text-ink-2">{tick.words}</span>
            )}
          </div>
        ))}
      </div>
      {lanes.map((lane, row) => (
        <div key={lane.name} className="absolute inset-x-0" style={{ top: TOP + row * ROW, height: ROW }}>
          <span className="absolute left-0 text-sm text-ink-2">{lane.name}</span>
          <div className="absolute inset-y-0 right-0 left-20">
            {lane.bars.map((bar) => (
              <TimelineBar
                key={bar.key}
                bar={bar}
                tone={tones.get(bar.layerId) ?? "var(--color-fern-200)"}
                chosen={bar.step === chosen}
                onChoose={() => onChoose(bar.step)}
              />
            ))}
          </div>
        </div>
      ))}
    </div>
  );
}

interface BarProps {
  bar: Bar;
  tone: string;
  chosen: boolean;
  onChoose: () => void;
}

/** One step in a lane; the list of steps says the same to the keyboard. */
function TimelineBar({ bar, tone, chosen, onChoose }: BarProps) {
  const pointable = usePointable(bar.layerId || null);
  return (
    <button
      type="button"
      tabIndex={-1}
      title={bar.round > 1 ? `${bar.title}, round ${bar.round}` : bar.title}
      aria-label={bar.title}
      className={`absolute inset-y-[3px] min-w-[3px] rounded-sm border data-pointed:border-ink ${chosen ? "z-10 border-fern-900 ring-2 ring-fern-600" : "border-ink/25"}`}
      style={{
        left: `${100 * bar.at}%`,
        width: `${100 * bar.width}%`,
        background: bar.busy
          ? tone
          : `repeating-linear-gradient(135deg, ${tone} 0 3px, var(--color-card) 3px 7px)`,
      }}
      onClick={onChoose}
      {...pointable}
    />
  );
}
