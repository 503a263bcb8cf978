import type { Frame, Ready, VersionView } from "../api/types";
import { figure } from "../ui/figures";
import { markGeometry, type Marked } from "./stripGeometry";

interface StripProps {
  frame: Frame;
  estimate: Ready | null;
  computing: boolean;
  /** The version the step is about: then its figures stand in the strip. */
  copy: VersionView | null;
}

/** The targets in sight: piece weight and the label rows, declared as band and estimated as mark. */
export function Strip({ frame, estimate, computing, copy }: StripProps) {
  const rows = copy ? copyRows(copy) : estimate?.label.filter((row) => row.in_sight);
  return (
    <section
      aria-label="Targets"
      aria-busy={computing}
      className="no-print flex min-h-[84px] shrink-0 items-stretch gap-5 border-t border-line bg-card px-5 py-1.5 max-[1279px]:gap-3 max-[1279px]:px-3 max-lg:flex-wrap max-lg:gap-y-1 max-lg:*:min-w-[58px] max-lg:[&_svg]:hidden"
    >
      <div className="w-28 shrink-0 max-lg:w-24">
        <p className="text-sm text-ink-2">{copy ? "Piece, this version" : "Piece"}</p>
        <p className="text-lg leading-tight font-semibold">
          {copy ? figure(copy.piece_g, 1) : estimate ? figure(estimate.piece_g.best, 1) : "–"}{" "}
          <span className="text-sm font-normal text-ink-2">g</span>
        </p>
        <p className="mt-1 truncate text-sm text-ink-2">
          {frame.net_weight ? `pack ${frame.net_weight}` : "no net weight"}
        </p>
      </div>
      <p className="flex w-14 shrink-0 items-center max-lg:hidden border-l border-line pl-4 text-sm leading-tight text-ink-2">
        {frame.basis}
      </p>
      {rows
        ? rows.map((row) => <Row key={row.row} row={row} />)
        : frame.targets.map((target) => (
            <div key={target.row} className="min-w-0 flex-1">
              <p className="truncate text-sm text-ink-2">{target.title}</p>
              <p className="text-ink-2">{target.declared ?? "not declared"}</p>
            </div>
          ))}
    </section>
  );
}

/** A version’s rows as the strip marks them: a figure has no range, and pulls where it leaves the declared one. */
const copyRows = (copy: VersionView): StripRow[] =>
  copy.rows
    .filter((row) => row.in_sight)
    .map((row) => ({
      ...row,
      computed: row.computed === null ? null : { best: row.computed },
      pulls: row.reached === false,
    }));

type StripRow = Marked & {
  row: string;
  title: string;
  short: string;
  unit: string;
  printed: string;
  declared: string | null;
  pulls: boolean;
};

function Row({ row }: { row: StripRow }) {
  const { pulls } = row;
  const mark = markGeometry(row);
  return (
    <div className="min-w-0 flex-1">
      <p className="truncate text-sm text-ink-2">{row.short}</p>
      <p className="text-lg leading-tight font-semibold">
        {row.printed} <span className="text-sm font-normal text-ink-2">{row.unit}</span>
      </p>
      {mark && (
        <svg
          role="img"
          aria-label={`${row.title}: label ${row.declared}, computed ${row.printed} ${row.unit}`}
          className="mt-0.5 block h-3 w-full"
          preserveAspectRatio="none"
          viewBox="0 0 100 12"
        >
          <rect y="4" width="100" height="4" rx="2" className="fill-linen" />
          <rect
            x={mark.bandAt}
            width={mark.bandWidth}
            y="3"
            height="6"
            className={pulls ? "fill-amber/60" : "fill-fern-200"}
          />
          <rect
            x={mark.at - 1}
            width="2"
            y="0"
            height="12"
            className={pulls ? "fill-amber-ink" : "fill-fern-900"}
          />
        </svg>
      )}
      <p className={`truncate text-sm ${pulls ? "font-semibold text-amber-ink" : "text-ink-2"}`}>
        {row.declared ? `label ${row.declared}` : "not declared"}
      </p>
    </div>
  );
}
