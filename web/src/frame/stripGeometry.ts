/** Where band and mark of a target stand on its line, in per cent of its length; pixels only, no figure of the job. */

/** What is marked on a line: the declared interval and a computed value. */
export interface Marked {
  declared_low: number | null;
  declared_high: number | null;
  /** Null where a figure of an ingredient is not known. */
  computed: { best: number } | null;
}

export interface MarkGeometry {
  bandAt: number;
  bandWidth: number;
  at: number;
}

const WINDOWS = 3;

/** The line shows three declared intervals' width about the label, or as much as the estimate needs. */
export function markGeometry(row: Marked): MarkGeometry | null {
  const { declared_low: low, declared_high: high } = row;
  if (low === null || high === null || row.computed === null) return null;
  const middle = (low + high) / 2;
  const half = Math.max((WINDOWS * (high - low)) / 2, 1.2 * Math.abs(row.computed.best - middle), 1e-9);
  const place = (value: number) => 50 + (50 * (value - middle)) / half;
  const bandAt = Math.max(0, place(low));
  return {
    bandAt,
    bandWidth: Math.min(100, place(high)) - bandAt,
    at: Math.min(99, Math.max(1, place(row.computed.best))),
  };
}
