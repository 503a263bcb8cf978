import { Combobox, ComboboxButton, ComboboxInput, ComboboxOption, ComboboxOptions } from "@headlessui/react";
import { useState } from "react";

export interface Option {
  id: string;
  name: string;
  note?: string;
}

interface ChoiceProps {
  label: string;
  options: readonly Option[];
  value: string | null;
  onChoose: (id: string) => void;
  placeholder?: string;
}

const MOST_SHOWN = 60;

/** A choice by name: type to narrow, arrows and Enter to take. */
export function Choice({ label, options, value, onChoose, placeholder }: ChoiceProps) {
  const [query, setQuery] = useState("");
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  const shown = options.filter((option) => words.every((word) => option.name.toLowerCase().includes(word)));
  return (
    <Combobox
      value={value}
      immediate
      onChange={(id: string | null) => {
        if (id !== null) onChoose(id);
      }}
      onClose={() => setQuery("")}
    >
      <span className="relative block">
        <ComboboxInput
          aria-label={label}
          className="w-full rounded border border-line bg-card px-2 py-1 pr-7 placeholder:text-ink-2/70"
          displayValue={(id: string | null) => options.find((option) => option.id === id)?.name ?? ""}
          onChange={(event) => setQuery(event.target.value)}
          placeholder={placeholder}
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
        className="z-30 max-h-72 w-80 overflow-auto rounded border border-line bg-card py-1 shadow-lg"
      >
        {shown.slice(0, MOST_SHOWN).map((option) => (
          <ComboboxOption
            key={option.id}
            value={option.id}
            className="cursor-pointer px-3 py-1 data-focus:bg-fern-100"
          >
            {option.name}
            {option.note && <span className="block text-sm text-ink-2">{option.note}</span>}
          </ComboboxOption>
        ))}
        {shown.length === 0 && <p className="px-3 py-1 text-ink-2">Nothing by that name.</p>}
      </ComboboxOptions>
    </Combobox>
  );
}
