import { Combobox, ComboboxButton, ComboboxInput, ComboboxOption, ComboboxOptions } from "@headlessui/react";
import { useEffect, useRef, useState, type KeyboardEvent } from "react";
import { ranked, type Option } from "./ranked";

export type { Option } from "./ranked";

interface ChoiceProps {
  label: string;
  options: readonly Option[];
  value: string | null;
  onChoose: (id: string) => void;
  placeholder?: string;
}

const LIST = "overflow-auto rounded border border-line bg-card py-1";

/** A choice by name: type to narrow, the best match first; arrows and Enter take, Escape leaves it as it was. */
export function Choice({ label, options, value, onChoose, placeholder }: ChoiceProps) {
  const { query, setQuery, shown, onKeyDown } = useNarrowing(options, value);
  return (
    <Combobox
      value={query.trim() ? null : value}
      onChange={(id: string | null) => {
        if (id !== null && id !== value) onChoose(id);
      }}
      onClose={() => setQuery("")}
    >
      {({ open, activeOption }) => (
        <>
          <span className="relative block">
            <ComboboxInput
              aria-label={label}
              className="w-full rounded border border-line bg-card px-2 py-1 pr-7 placeholder:text-ink-2/70"
              displayValue={() => options.find((option) => option.id === value)?.name ?? ""}
              onChange={(event) => setQuery(event.target.value)}
              onKeyDown={(event) => onKeyDown(event, open, activeOption !== null)}
              onFocus={(event) => event.target.select()}
              placeholder={placeholder}
              maxLength={200}
              autoComplete="off"
            />
            <ComboboxButton
              aria-label={`${label}, show all`}
              className="absolute inset-y-0 right-1 px-1 text-ink-2"
            >
              ▾
            </ComboboxButton>
          </span>
          <ComboboxOptions
            anchor="bottom start"
            className={`z-30 w-80 shadow-lg [--anchor-max-height:18rem] ${LIST}`}
          >
            <Options shown={shown} query={query} />
          </ComboboxOptions>
        </>
      )}
    </Combobox>
  );
}

interface FinderProps {
  label: string;
  options: readonly Option[];
  onChoose: (id: string) => void;
  placeholder: string;
}

/** A field with its list always under it, ready to type into: for a sheet of its own. */
export function Finder({ label, options, onChoose, placeholder }: FinderProps) {
  const { query, setQuery, shown } = useNarrowing(options, null);
  return (
    <Combobox
      value={null}
      onChange={(id: string | null) => {
        if (id !== null) onChoose(id);
      }}
      immediate
    >
      <ComboboxInput
        autoFocus
        aria-label={label}
        className="w-full rounded border border-line bg-card px-2 py-1 placeholder:text-ink-2/70"
        onChange={(event) => setQuery(event.target.value)}
        placeholder={placeholder}
        maxLength={200}
        autoComplete="off"
      />
      <ComboboxOptions static className={`mt-2 h-72 ${LIST}`}>
        <Options shown={shown} query={query} />
      </ComboboxOptions>
    </Combobox>
  );
}

function Options({ shown, query }: { shown: readonly Option[]; query: string }) {
  return (
    <>
      {shown.map((option) => (
        <ComboboxOption
          key={option.id}
          value={option.id}
          className="cursor-pointer px-3 py-1 data-focus:bg-fern-100"
        >
          {option.name}
          {option.note && <span className="block text-sm text-ink-2">{option.note}</span>}
        </ComboboxOption>
      ))}
      {shown.length === 0 && <p className="px-3 py-1 text-ink-2">Nothing by the name of “{query}”.</p>}
    </>
  );
}

const MOST_FRAMES = 60;

const pressAgain = (input: HTMLInputElement) =>
  requestAnimationFrame(() =>
    input.dispatchEvent(new KeyboardEvent("keydown", { key: "Enter", bubbles: true, cancelable: true })),
  );

/** What is typed and what it leaves. The first arrow down after typing stays on the best match, which is marked already. */
function useNarrowing(options: readonly Option[], value: string | null) {
  const [query, setText] = useState("");
  const justTyped = useRef(false);
  const again = useRef(0);
  const waiting = useRef<HTMLInputElement | null>(null);
  const shown = ranked(options, query, value);
  useEffect(() => {
    if (waiting.current && options.length > 0) {
      pressAgain(waiting.current);
      waiting.current = null;
    }
  }, [options.length]);
  const setQuery = (text: string) => {
    justTyped.current = text.trim() !== "";
    setText(text);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>, open: boolean, marked: boolean) => {
    if (event.key === "Enter" && open && query.trim() && !marked) {
      event.preventDefault(); // the list is on its way: what was typed stays, and Enter counts once its best match is marked
      if (options.length === 0) waiting.current = event.currentTarget;
      else if (shown.length > 0 && again.current < MOST_FRAMES) {
        again.current += 1;
        pressAgain(event.currentTarget);
      }
      return;
    }
    again.current = 0;
    waiting.current = null;
    if (event.key === "ArrowDown" && open && justTyped.current) event.preventDefault();
    if (event.key === "Escape" && !open) event.currentTarget.blur();
    if (event.key !== "Tab" && event.key !== "Shift") justTyped.current = false;
  };
  return { query, setQuery, shown, onKeyDown };
}
