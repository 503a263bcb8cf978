import { useEffect, useId, useRef, useState, type KeyboardEvent } from "react";
import { flushSync } from "react-dom";
import type { Typed } from "../api/types";
import { useTyping } from "./typing";
import { neighbour, type Direction } from "./cells";

interface CellProps {
  label: string;
  value: string;
  onCommit: (typed: string) => void;
  problem?: string | null | undefined;
  hint?: string | null | undefined;
  unit?: string | undefined;
  placeholder?: string;
  align?: "left" | "right";
  className?: string;
  showLabel?: boolean;
  /** Whether committing makes a further field after this one, to which Tab goes. */
  grows?: boolean;
  /** The most signs that are kept. */
  most?: number;
  /** Whether it takes the focus when it comes in, as the field of something just added. */
  arrives?: boolean;
}

/** What the core says of a field: its problem, or what it was read as where that is more than what stands there. */
export const told = (field: Typed | undefined) => ({
  problem: field?.problem,
  hint: field?.read_as && `read as ${field.read_as}`,
});

const MOST_SIGNS = 200; // as the core keeps of a field

const ARROWS: Record<string, Direction> = {
  ArrowUp: "up",
  ArrowDown: "down",
  ArrowLeft: "left",
  ArrowRight: "right",
};

/** A field that keeps what is typed. In a table arrows move; typing, Enter or F2 edits; Enter or leaving commits, Escape does not. */
export function Cell(props: CellProps) {
  const { label, value, problem, hint, unit, align = "left", className = "", showLabel = false } = props;
  const id = useId();
  const { editing, ...field } = useEditing(label, value, props.onCommit, props.grows ?? false);
  // What was half typed when the page went is under way again; leaving it commits as ever.
  const arriving = useRef(props.arrives ? "selected" : editing ? "at its end" : null);
  useEffect(() => {
    const input = document.getElementById(id) as HTMLInputElement | null;
    if (!arriving.current || !input) return;
    input.focus();
    if (arriving.current === "selected") input.select();
    else input.setSelectionRange(input.value.length, input.value.length);
    arriving.current = null;
  }, [id]);
  const note = problem ?? hint;
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
          data-cell={editing ? "editing" : "ready"}
          aria-label={showLabel ? undefined : label}
          aria-invalid={problem ? true : undefined}
          aria-describedby={note ? `${id}-note` : undefined}
          className={`w-full min-w-0 bg-transparent px-2 py-1 placeholder:text-ink-2/70 focus:outline-none ${align === "right" ? "text-right" : ""} ${editing ? "" : "caret-transparent"}`}
          placeholder={props.placeholder}
          maxLength={props.most ?? MOST_SIGNS}
          autoComplete="off"
          {...field}
        />
        {unit && !/[a-z"°%]/i.test(field.value) && <span className="pr-2 text-sm text-ink-2">{unit}</span>}
      </span>
      {note && (
        <span
          id={`${id}-note`}
          className={`mt-0.5 block text-sm leading-tight ${problem ? "text-amber-ink" : "text-ink-2"}`}
        >
          {note}
        </span>
      )}
    </span>
  );
}

/** A cell is ready (arrows move on) or being edited (arrows move in the text); what is typed is a draft until committed. */
function useEditing(label: string, value: string, onCommit: (typed: string) => void, grows: boolean) {
  const { draft, latest, write } = useTyping(label);
  const [editing, setEditing] = useState(draft !== null);
  const commit = () => {
    if (latest.current !== null && latest.current !== value) onCommit(latest.current);
    write(null);
    setEditing(false);
  };
  const go = (input: HTMLInputElement, direction: Direction) => {
    const target = neighbour(input, direction);
    if (!target) {
      commit();
      input.select();
      return;
    }
    target.focus(); // leaving commits
    target.select();
  };
  return {
    editing,
    value: draft ?? value,
    onPointerDown: () => setEditing(true),
    onChange: (event: { target: { value: string } }) => {
      write(event.target.value);
      setEditing(true);
    },
    onBlur: commit,
    onKeyDown: (event: KeyboardEvent<HTMLInputElement>) => {
      const input = event.currentTarget;
      const arrow = ARROWS[event.key];
      const sideways = arrow === "left" || arrow === "right";
      const moves = arrow && !(sideways && (editing || !input.closest("tr")));
      if (moves && !event.shiftKey && !event.ctrlKey && !event.altKey) {
        event.preventDefault();
        go(input, arrow);
      } else if (event.key === "Tab" && !event.shiftKey && grows && latest.current?.trim()) {
        event.preventDefault();
        flushSync(commit); // so that the further field is there before the next key
        go(input, "right");
      } else if (event.key === "F2" || (event.key === "Enter" && !editing && input.value !== "")) {
        event.preventDefault();
        setEditing(true);
        input.setSelectionRange(input.value.length, input.value.length);
      } else if (event.key === "Enter") {
        go(input, event.shiftKey ? "up" : "down");
      } else if (event.key === "Escape") {
        if (!editing) input.blur();
        write(null);
        setEditing(false);
      }
    },
  };
}
