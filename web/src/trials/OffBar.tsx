interface OffBarProps {
  /** How far the copy is off, and its range, in what an eater would notice. */
  off: number;
  low: number;
  high: number;
  isTold: boolean;
  label: string;
}

const REACH = 3;
const at = (value: number) => `${50 + (50 * Math.max(-REACH, Math.min(REACH, value))) / REACH}%`;

/** A difference on a scale shared by all: the pale field in the middle is what nobody would notice. */
export function OffBar({ off, low, high, isTold, label }: OffBarProps) {
  const beyond = isTold && Math.abs(off) > 1;
  const left = Math.max(-REACH, Math.min(REACH, low));
  const right = Math.max(-REACH, Math.min(REACH, high));
  return (
    <svg
      role="img"
      aria-label={label}
      className="block h-4 w-full overflow-visible"
      preserveAspectRatio="none"
    >
      <rect x={at(-1)} width={`${100 / REACH}%`} y="1" height="14" className="fill-fern-100" />
      <line x1="0" x2="100%" y1="8" y2="8" className="stroke-line" />
      <line x1="50%" x2="50%" y1="0" y2="16" className="stroke-ink-2/50" />
      <rect
        x={at(left)}
        width={`${Math.max(0.8, (50 * (right - left)) / REACH)}%`}
        y="5"
        height="6"
        rx="3"
        className={beyond ? "fill-amber/50" : "fill-fern-600/40"}
      />
      <circle cx={at(off)} cy="8" r="4" className={beyond ? "fill-amber" : "fill-fern-900"} />
    </svg>
  );
}
