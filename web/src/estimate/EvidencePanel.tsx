import { Switch } from "@headlessui/react";
import { Fragment, useState } from "react";
import { useMatch } from "../app/match";
import type { Evidence } from "../api/types";
import { withDoubt } from "./edits";
import { figure } from "../ui/figures";

const JOINT = " · "; // between seen and expected: each stays on one line

/** Every piece of evidence under its heading: what fights first and open, what fits folded to a line that opens. */
export function EvidencePanel({ evidence }: { evidence: readonly Evidence[] }) {
  const fights = evidence.filter((piece) => piece.pulls);
  const groups = [...new Set(evidence.map((piece) => piece.group))].sort();
  return (
    <>
      <p className="mb-2 flex justify-between text-sm text-ink-2">
        <span>seen, and expected from the rest</span>
        <span>tension</span>
      </p>
      {fights.length > 0 && (
        <section aria-label="Against the rest" className="mb-4">
          <h3 className="font-semibold">Against the rest</h3>
          <ul>
            {fights.map((piece) => (
              <EvidenceLine key={piece.id} piece={piece} />
            ))}
          </ul>
        </section>
      )}
      {groups.map((group) => (
        <Group
          key={group}
          title={group}
          pieces={evidence.filter((piece) => piece.group === group && !piece.pulls)}
        />
      ))}
    </>
  );
}

function Group({ title, pieces }: { title: string; pieces: readonly Evidence[] }) {
  const off = pieces.filter((piece) => !piece.used).length;
  const [open, setOpen] = useState(title === "Weighings");
  if (pieces.length === 0) return null;
  return (
    <section aria-label={title} className="border-b border-line/60">
      <h3>
        <button
          type="button"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
          className="flex w-full items-baseline justify-between rounded px-1.5 py-1.5 text-left hover:bg-fern-100"
        >
          <span className="font-semibold">
            {open ? "▾" : "▸"} {title}
          </span>
          <span className="text-sm text-ink-2">
            {pieces.length - off} {pieces.length - off === 1 ? "fits" : "fit"}
            {off > 0 && `, ${off} off`}
          </span>
        </button>
      </h3>
      {open && (
        <ul>
          {pieces.map((piece) => (
            <EvidenceLine key={piece.id} piece={piece} />
          ))}
        </ul>
      )}
    </section>
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
          {(piece.sentence || piece.expected).split(JOINT).map((part, at, parts) => (
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
