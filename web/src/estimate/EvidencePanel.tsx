import { Switch } from "@headlessui/react";
import { Fragment, useState } from "react";
import { useMatch } from "../app/match";
import type { Evidence } from "../api/types";
import { withDoubt } from "./edits";
import { figure } from "../ui/figures";
import { Button } from "../ui/Parts";

const FIRST = 12;
const JOINT = " · "; // between seen and expected: each stays on one line

/** Every piece of evidence: seen, expected from the rest, how far apart; each can be switched off. */
export function EvidencePanel({ evidence }: { evidence: readonly Evidence[] }) {
  const [all, setAll] = useState(false);
  const shown = all ? evidence : evidence.slice(0, FIRST);
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
      {evidence.length > FIRST && (
        <Button look="bare" className="mt-2" onClick={() => setAll(!all)}>
          {all ? "Fewer" : `All ${evidence.length}`}
        </Button>
      )}
    </>
  );
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
        <span className="block text-sm text-ink-2">
          {piece.expected.split(JOINT).map((part, at, parts) => (
            <Fragment key={part}>
              <span className="inline-block">
                {part}
                {at < parts.length - 1 && " ·"}
              </span>{" "}
            </Fragment>
          ))}
        </span>
      </span>
      <span className={`pt-0.5 ${piece.pulls ? "font-semibold text-amber-ink" : "text-ink-2"}`}>
        {piece.tension !== null ? figure(piece.tension, 1) : "off"}
      </span>
    </li>
  );
}
