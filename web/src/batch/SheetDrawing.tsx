import type { SheetPlan } from "../api/types";
import { figure } from "../ui/figures";

const WIDE = 240;
const HIGH = 190;

/** A rolled sheet from above with what is cut out of it at once, to scale. */
export function SheetDrawing({ sheet }: { sheet: SheetPlan }) {
  const scale = Math.min(WIDE / sheet.length_mm, HIGH / sheet.width_mm);
  const words = `${sheet.at_once} pieces cut from a sheet of ${figure(sheet.length_mm / 10, 0)} × ${figure(sheet.width_mm / 10, 0)} cm`;
  return (
    <figure className="w-[240px] shrink-0 max-[1100px]:hidden print:block">
      <svg
        role="img"
        aria-label={words}
        viewBox={`0 0 ${WIDE} ${sheet.width_mm * scale}`}
        width={WIDE}
        height={sheet.width_mm * scale}
      >
        <rect
          width={sheet.length_mm * scale}
          height={sheet.width_mm * scale}
          rx={6}
          className="fill-linen stroke-ink-2"
        />
        {sheet.corners.map(({ x_mm: x, y_mm: y }) =>
          sheet.round ? (
            <circle
              key={`${x} ${y}`}
              cx={(x + sheet.piece_length_mm / 2) * scale}
              cy={(y + sheet.piece_width_mm / 2) * scale}
              r={(sheet.piece_length_mm / 2) * scale}
              className="fill-fern-100 stroke-fern-700"
            />
          ) : (
            <rect
              key={`${x} ${y}`}
              x={x * scale}
              y={y * scale}
              width={sheet.piece_length_mm * scale}
              height={sheet.piece_width_mm * scale}
              className="fill-fern-100 stroke-fern-700"
            />
          ),
        )}
      </svg>
      <figcaption className="text-sm leading-tight text-ink-2">
        {words}, {figure(sheet.thick_mm, 1)} mm thick
        {sheet.from_scraps > 0 && `; ${sheet.from_scraps} more from its scraps, rolled out once`}.
      </figcaption>
    </figure>
  );
}
