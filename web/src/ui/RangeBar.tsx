interface RangeBarProps {
  low: number;
  best: number;
  high: number;
  most: number;
  label: string;
}

/** A best value with its 90 % range as a soft band on a scale shared by its group. */
export function RangeBar({ low, best, high, most, label }: RangeBarProps) {
  const at = (value: number) => `${Math.max(0, Math.min(100, (100 * value) / most))}%`;
  return (
    <svg
      role="img"
      aria-label={label}
      className="block h-4 w-full overflow-visible"
      preserveAspectRatio="none"
    >
      <line x1="0" x2="100%" y1="8" y2="8" className="stroke-line" />
      <rect
        x={at(low)}
        width={`${Math.max(0.6, (100 * (high - low)) / most)}%`}
        y="4"
        height="8"
        rx="4"
        className="fill-fern-200 transition-all duration-300 motion-reduce:transition-none"
      />
      <rect
        x={at(best)}
        width="2.5"
        y="1"
        height="14"
        className="fill-fern-900 transition-all duration-300 motion-reduce:transition-none"
      />
    </svg>
  );
}
