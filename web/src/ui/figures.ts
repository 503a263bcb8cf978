/** How figures are written: decimals by size, ranges low to high with the same decimals. Computes nothing. */

/** Decimals that suit a figure: about three digits. */
export function decimalsFor(value: number): number {
  const size = Math.abs(value);
  if (size >= 100) return 0;
  if (size >= 1) return 1;
  return size >= 0.1 ? 2 : 3;
}

/** Decimals that show a step: 0.1 has one, 0.05 two, 1 none. */
export function decimalsOfStep(step: number): number {
  return Math.max(0, Math.min(4, Math.ceil(-Math.log10(step) - 1e-9)));
}

/** A figure as text. */
export function figure(value: number, decimals = decimalsFor(value)): string {
  const text = value.toFixed(decimals);
  return Number(text) === 0 ? "0" : text.replace("-", "−");
}

/** A range as text, both ends with the same decimals; ends that read the same are said once. */
export function range(low: number, high: number, decimals = decimalsFor(high)): string {
  if (low === 0 && high === 0) return "0";
  const write = (value: number) => value.toFixed(decimals).replace("-", "−");
  return write(low) === write(high) ? write(low) : `${write(low)} – ${write(high)}`;
}

/** A share as whole per cent, or "<1". */
export function percent(share: number): string {
  const value = 100 * share;
  return value > 0 && value < 0.5 ? "<1" : value.toFixed(0);
}

/** What stands for an interval beside a declared figure. */
export function interval(low: number, high: number): string {
  const write = (value: number) => String(Number(value.toPrecision(6)));
  return `${write(low)} to ${write(high)}`;
}
