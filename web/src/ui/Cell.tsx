import { useId, useRef, useState } from "react";

interface CellProps {
  label: string;
  value: string;
  onCommit: (typed: string) => void;
  problem?: string | null | undefined;
  hint?: string | undefined;
  unit?: string | undefined;
  placeholder?: string;
  align?: "left" | "right";
  className?: string;
  showLabel?: boolean;
}

/** A field that keeps what is typed: Enter or leaving it commits, Escape leaves it as it was. */
export function Cell(props: CellProps) {
  const { label, value, onCommit, problem, unit, align = "left", className = "", showLabel = false } = props;
  const [draft, setDraft] = useState<string | null>(null);
  const escaped = useRef(false);
  const id = useId();
  const commit = () => {
    if (draft !== null && draft !== value && !escaped.current) onCommit(draft);
    escaped.current = false;
    setDraft(null);
  };
  return (
    <span className={`block ${className}`}>
      {showLabel && (
        <label htmlFor={id} className="mb-0.5 block text-sm text-ink-2">
          {label}
        </label>
      )}
      <span
        className={`flex items-baseline rounded border bg-card focus-within:border-fern-600 ${problem ? "border-amber" : "border-line"}`}
      >
        <input
          id={id}
          data-cell
          aria-label={showLabel ? undefined : label}
          aria-invalid={problem ? true : undefined}
          aria-describedby={problem ? `${id}-problem` : undefined}
          className={`w-full min-w-0 bg-transparent px-2 py-1 placeholder:text-ink-2/70 focus:outline-none ${align === "right" ? "text-right" : ""}`}
          value={draft ?? value}
          placeholder={props.placeholder}
          autoComplete="off"
          onChange={(event) => setDraft(event.target.value)}
          onBlur={commit}
          onKeyDown={(event) => {
            if (event.key === "Enter") {
              event.currentTarget.blur();
              focusNeighbour(event.currentTarget, event.shiftKey ? -1 : 1);
            }
            if (event.key === "Escape") {
              escaped.current = true;
              event.currentTarget.blur();
            }
            if (event.key === "ArrowDown" || event.key === "ArrowUp") {
              event.preventDefault();
              focusNeighbour(event.currentTarget, event.key === "ArrowDown" ? 1 : -1);
            }
          }}
        />
        {unit && <span className="pr-2 text-sm text-ink-2">{unit}</span>}
      </span>
      {problem ? (
        <span id={`${id}-problem`} className="mt-0.5 block text-sm text-amber-ink">
          {problem}
        </span>
      ) : (
        props.hint && <span className="mt-0.5 block text-sm text-ink-2">{props.hint}</span>
      )}
    </span>
  );
}

/** Moves to the next or previous field of the same table. */
function focusNeighbour(input: HTMLInputElement, step: number) {
  const group = input.closest("[data-cells]");
  if (!group) return;
  const cells = [...group.querySelectorAll<HTMLInputElement>("input[data-cell]")];
  const target = cells[cells.indexOf(input) + step];
  target?.focus();
  target?.select();
}
