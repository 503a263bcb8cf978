import type { CavityPlan } from "../api/types";
import { useMatch } from "../app/match";
import { figure } from "../ui/figures";

const WIDE = 220;
const HIGH = 130;
const EDGE = 8;

/** One cavity in section, to scale: shell, filling, and the cap that closes it. */
export function CavityDrawing({ cavity }: { cavity: CavityPlan }) {
  const shaped = cavity.top_mm !== null && cavity.depth_mm !== null && cavity.shape !== "other";
  return (
    <figure className="w-[220px] shrink-0 max-[1100px]:hidden print:block">
      {shaped && <Section cavity={cavity} top={cavity.top_mm ?? 1} depth={cavity.depth_mm ?? 1} />}
      <figcaption>
        <table className="w-full text-sm">
          <tbody>
            {cavity.parts.map((part) => (
              <tr key={part.layer_id} className="align-top">
                <td className="leading-tight text-ink-2">
                  {part.name}
                  {part.spoons && <span className="block">{part.spoons}</span>}
                </td>
                <td className="pl-2 text-right whitespace-nowrap">{figure(part.grams, 1)} g</td>
                <td className="w-14 text-right whitespace-nowrap text-ink-2">{figure(part.ml, 1)} mL</td>
              </tr>
            ))}
          </tbody>
        </table>
      </figcaption>
    </figure>
  );
}

function Section({ cavity, top, depth }: { cavity: CavityPlan; top: number; depth: number }) {
  const { frame } = useMatch();
  // The coat's own tone, and that of what fills most of it.
  const coat = cavity.parts[0]?.layer_id;
  const filling = [...cavity.parts].filter((part) => part.layer_id !== coat).sort((a, b) => b.ml - a.ml)[0];
  const tones = [coat, filling?.layer_id].map(
    (id) => frame.layers.find((one) => one.layer_id === id)?.tone ?? "var(--color-linen)",
  );
  const scale = Math.min((WIDE - 2 * EDGE) / top, (HIGH - 2 * EDGE) / depth);
  const middle = WIDE / 2;
  const outline = (inset: number, level: number) => {
    const down = depth - inset;
    const half = (at: number) => {
      if (cavity.shape === "half sphere") {
        const radius = top / 2 - inset;
        return at >= radius ? 0 : Math.sqrt(radius * radius - at * at);
      }
      const below = cavity.shape === "tapered cup" ? (cavity.bottom_mm ?? top) : top;
      return Math.max(0, top / 2 - ((top - below) / 2) * (at / depth) - inset);
    };
    const steps = 24;
    const levels = Array.from({ length: steps + 1 }, (_, step) => level + ((down - level) * step) / steps);
    const right = levels.map((at) => `${middle + half(at) * scale},${EDGE + at * scale}`);
    const left = [...levels].reverse().map((at) => `${middle - half(at) * scale},${EDGE + at * scale}`);
    return [...right, ...left].join(" ");
  };
  const words = `A cavity of ${figure(cavity.holds_ml, 1)} mL${
    cavity.shell_mm === null ? "" : `, shell of ${figure(cavity.shell_mm, 1)} mm`
  }, filling of ${figure(cavity.filling_ml, 1)} mL`;
  return (
    <svg role="img" aria-label={words} viewBox={`0 0 ${WIDE} ${HIGH}`} width={WIDE} height={HIGH}>
      <polygon points={outline(0, 0)} fill={tones[0]} className="stroke-ink" />
      {cavity.shell_mm !== null && (
        <polygon
          points={outline(cavity.shell_mm, cavity.filling_to_mm ?? 0)}
          fill={tones[1]}
          className="stroke-ink/40"
        />
      )}
    </svg>
  );
}
