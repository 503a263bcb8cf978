import type { CutPlan } from "../api/types";
import { figure } from "../ui/figures";

const WIDE = 260;
const HIGH = 190;
const EDGE = 22;

/** The slab from above with its cuts, to scale. */
export function CutDrawing({ cut }: { cut: CutPlan }) {
  const scale = Math.min((WIDE - EDGE) / cut.length_mm, (HIGH - EDGE) / cut.width_mm);
  const [wide, high] = [cut.length_mm * scale, cut.width_mm * scale];
  const pieces = cut.corners.length;
  const words = `${pieces} pieces of ${figure(cut.piece_length_mm, 0)} × ${figure(cut.piece_width_mm, 0)} mm in ${figure(cut.length_mm, 0)} × ${figure(cut.width_mm, 0)} mm`;
  return (
    <figure className="shrink-0 max-[1100px]:hidden print:block" style={{ width: WIDE }}>
      <svg
        role="img"
        aria-label={words}
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        width={WIDE}
        height={HIGH}
        className="print:h-32 print:w-auto"
      >
        {cut.round ? (
          <circle cx={wide / 2 + EDGE} cy={high / 2} r={wide / 2} className="fill-linen stroke-ink-2" />
        ) : (
          <rect x={EDGE} width={wide} height={high} className="fill-linen stroke-ink-2" />
        )}
        {cut.corners.map(({ x_mm: x, y_mm: y }) => (
          <rect
            key={`${x} ${y}`}
            x={EDGE + x * scale}
            y={y * scale}
            width={cut.piece_length_mm * scale}
            height={cut.piece_width_mm * scale}
            className="fill-fern-100 stroke-fern-700"
            strokeWidth={0.8}
          />
        ))}
        <text x={EDGE + wide / 2} y={high + 15} textAnchor="middle" className="fill-ink-2 text-[12px]">
          {figure(cut.length_mm, 0)} mm
        </text>
        <text
          x={-high / 2}
          y={14}
          textAnchor="middle"
          transform="rotate(-90)"
          className="fill-ink-2 text-[12px]"
        >
          {figure(cut.width_mm, 0)} mm
        </text>
      </svg>
      <figcaption className="text-sm leading-tight text-ink-2">
        {cut.heights.length > 0 && (
          <ul>
            {[...cut.heights].reverse().map((one) => (
              <li key={one.layer_id} className="flex justify-between gap-2">
                <span>{one.name}</span>
                <span className="whitespace-nowrap">
                  {figure(one.stands_mm, 1)} mm
                  {Math.abs(one.stands_mm - one.meant_mm) > 0.05 && `, meant ${figure(one.meant_mm, 1)}`}
                </span>
              </li>
            ))}
          </ul>
        )}
      </figcaption>
    </figure>
  );
}
