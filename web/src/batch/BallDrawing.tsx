import type { BallPlan } from "../api/types";
import { useMatch } from "../app/match";
import { figure } from "../ui/figures";

const SIZE = 150;
const EDGE = 6;

/** A ball in section, to scale: core, paste, coat and crust. */
export function BallDrawing({ ball }: { ball: BallPlan }) {
  const { frame } = useMatch();
  const across = ball.rings.at(-1)?.outer_mm ?? 1;
  const scale = (SIZE - 2 * EDGE) / across;
  const tone = (id: string) => frame.layers.find((one) => one.layer_id === id)?.tone ?? "var(--color-linen)";
  return (
    <figure className="w-[220px] shrink-0 max-[1100px]:hidden print:block">
      <svg
        role="img"
        aria-label={`A ball of ${figure(across, 0)} mm in section`}
        viewBox={`0 0 ${SIZE} ${SIZE}`}
        width={SIZE}
        height={SIZE}
      >
        {[...ball.rings].reverse().map((ring) => (
          <circle
            key={ring.layer_id}
            cx={SIZE / 2}
            cy={SIZE / 2}
            r={(ring.outer_mm * scale) / 2}
            fill={tone(ring.layer_id)}
            className="stroke-ink/60"
          />
        ))}
      </svg>
      <figcaption className="text-sm">
        <ul>
          {[...ball.rings].reverse().map((ring) => (
            <li key={ring.layer_id} className="flex justify-between gap-2">
              <span className="text-ink-2">{ring.name}</span>
              <span className="whitespace-nowrap">
                {figure(ring.grams, 1)} g, to {figure(ring.outer_mm, 0)} mm
              </span>
            </li>
          ))}
        </ul>
      </figcaption>
    </figure>
  );
}
