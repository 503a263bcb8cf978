import { Switch } from "@headlessui/react";
import { useState } from "react";
import { useMatch } from "../app/match";
import type { Evidence } from "../api/types";
import { withDoubt } from "../study/edits";
import { figure, range } from "../ui/figures";
import { Button } from "../ui/Parts";

const FIRST = 12;

/** Every piece of evidence: seen, expected from the rest, how far apart; each can be switched off. */
export function EvidencePanel({ evidence }: { evidence: readonly Evidence[] }) {
  const [all, setAll] = useState(false);
  const ranked = [...evidence].sort((a, b) => rank(b) - rank(a));
  const shown = all ? ranked : ranked.slice(0, FIRST);
  return (
    <>
      <p className="mb-2 flex justify-between text-sm text-ink-2">
        <span>seen, and expected from the rest</span>
        <span>tension</span>
      </p>
      <ul>
        {shown.map((piece) => (
          <EvidenceLine key={piece.id} piece={piece} />
        ))}
      </ul>
      {ranked.length > FIRST && (
        <Button look="bare" className="mt-2" onClick={() => setAll(!all)}>
          {all ? "Fewer" : `All ${ranked.length}`}
        </Button>
      )}
    </>
  );
}

/** Figures before order and rules at the same tension; what is switched off comes with the figures. */
function rank(piece: Evidence): number {
  const weight =
    piece.kind === "weighing" || piece.kind === "label row" || piece.kind === "net weight" ? 1 : 0;
  return piece.used ? (piece.tension ?? 0) * 10 + weight * 5 : 6;
}

function EvidenceLine({ piece }: { piece: Evidence }) {
  const { change } = useMatch();
  return (
    <li
      className={`flex items-start gap-3 border-b border-line/60 px-1.5 py-1.5 ${piece.pulls ? "bg-amber-wash" : ""} ${piece.used ? "" : "text-ink-2"}`}
    >
      <Switch
        checked={piece.used}
        onChange={(on) => change((old) => withDoubt(old, piece.id, !on))}
        aria-label={`Use ${piece.title}`}
        className="mt-0.5 inline-flex h-5 w-9 shrink-0 items-center rounded-full border border-ink-2/40 bg-linen data-checked:border-fern-700 data-checked:bg-fern-700"
      >
        <span
          className={`size-3.5 rounded-full bg-white shadow transition-transform ${piece.used ? "translate-x-[17px]" : "translate-x-0.5"}`}
        />
      </Switch>
      <span className="min-w-0 flex-1 leading-tight">
        <span className="block font-semibold first-letter:uppercase">{piece.title}</span>
        <span className="block text-sm text-ink-2">{expectation(piece)}</span>
      </span>
      <span className={`pt-0.5 ${piece.pulls ? "font-semibold text-amber-ink" : "text-ink-2"}`}>
        {piece.tension !== null ? figure(piece.tension, 1) : "off"}
      </span>
    </li>
  );
}

function expectation(piece: Evidence): string {
  if (!piece.used || piece.expected_low === null || piece.expected_high === null)
    return `seen ${piece.seen} ${piece.unit}, not used`;
  if (piece.kind === "order") {
    return piece.expected_low >= 0
      ? "certain without it"
      : piece.pulls
        ? "the rest says the opposite"
        : "the rest leaves it open";
  }
  if (piece.kind === "chocolate rule") {
    return piece.expected_high <= 0
      ? "met without it"
      : piece.pulls
        ? "the rest does not meet it"
        : "the rest leaves it open";
  }
  const unit = piece.unit === "%" ? "%" : piece.unit;
  const expected =
    piece.kind === "2 % or less"
      ? range(Math.max(0, piece.expected_low), Math.max(0, piece.expected_high))
      : range(piece.expected_low, piece.expected_high);
  return `seen ${piece.seen} · expected ${expected} ${unit}`;
}
