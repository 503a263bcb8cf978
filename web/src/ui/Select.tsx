interface SelectProps<Value extends string> {
  label: string;
  value: Value | "";
  options: readonly (readonly [Value, string])[];
  onChoose: (value: Value) => void;
  /** Whether the label stands above; else it is only told. */
  showLabel?: boolean;
  className?: string;
  /** What stands there while nothing is chosen. */
  empty?: string;
}

/** A choice of a few. */
export function Select<Value extends string>(props: SelectProps<Value>) {
  const { label, value, options, onChoose, showLabel = false, className = "w-full", empty } = props;
  const field = (
    <select
      aria-label={showLabel ? undefined : label}
      className={`rounded border border-line bg-card px-2 py-1 text-ink ${className}`}
      value={value}
      onChange={(event) => onChoose(event.target.value as Value)}
    >
      {empty !== undefined && <option value="">{empty}</option>}
      {options.map(([id, words]) => (
        <option key={id} value={id}>
          {words}
        </option>
      ))}
    </select>
  );
  if (!showLabel) return field;
  return (
    <label className="block">
      <span className="mb-0.5 block text-sm text-ink-2">{label}</span>
      {field}
    </label>
  );
}
