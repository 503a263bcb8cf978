const FIELD = "rounded border border-line bg-card px-2 py-1";

interface FieldProps {
  label: string;
  value: string;
  placeholder?: string;
  most?: number;
  onChange: (typed: string) => void;
}

/** One field of a packet, its name above. */
export function Field({ label, value, placeholder, most = 200, onChange }: FieldProps) {
  return (
    <label className="block">
      <span className="block text-sm text-ink-2">{label}</span>
      <input
        className={`w-full ${FIELD}`}
        value={value}
        placeholder={placeholder}
        maxLength={most}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}

/** Several lines of a packet. */
export function TextField({ label, value, most = 5000, onChange }: FieldProps) {
  return (
    <label className="mt-3 block">
      <span className="block text-sm text-ink-2">{label}</span>
      <textarea
        className={`h-24 w-full ${FIELD}`}
        value={value}
        maxLength={most}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}

interface PanelFieldsProps {
  asked: readonly { row: string; title: string; unit: string }[];
  rows: Record<string, string>;
  onChange: (rows: Record<string, string>) => void;
}

/** The rows of a packet's own panel, as it prints them. */
export function PanelFields({ asked, rows, onChange }: PanelFieldsProps) {
  return (
    <div className="grid grid-cols-2 gap-x-4 gap-y-2">
      {asked.map(({ row, title, unit }) => (
        <label key={row} className="flex items-center justify-between gap-2">
          <span className="text-sm">
            {title} <span className="text-ink-2">{unit}</span>
          </span>
          <input
            className={`w-24 text-right ${FIELD}`}
            inputMode="decimal"
            value={rows[row] ?? ""}
            maxLength={200}
            onChange={(event) => onChange({ ...rows, [row]: event.target.value })}
          />
        </label>
      ))}
    </div>
  );
}
