import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { useMatch } from "../app/match";
import type { Bracket, Meaning, Placing, StatementItem, Whereabouts } from "../api/types";
import { Choice } from "../ui/Choice";
import { Button } from "../ui/Parts";
import { withCorrection, withMeaning, withPlacement } from "./edits";
import { OwnIngredient } from "./OwnIngredient";
import { pantryQuery } from "./studyApi";

/** Every name of the statement: what it is taken for, what its bracket means, and which layers it is in. */
export function NamesTable() {
  const { study } = useMatch();
  const wanted = useSearchParams()[0].get("item");
  const table = useRef<HTMLTableElement>(null);
  useEffect(() => {
    if (wanted) table.current?.querySelector("[data-wanted]")?.scrollIntoView({ block: "center" });
  }, [wanted]);
  const layers = study.study.layers;
  const brackets = new Map(study.reading.brackets.map((one) => [one.item, one]));
  const placings = new Map(study.reading.placings.map((one) => [`${one.item}|${one.layer_id}`, one]));
  return (
    <>
      {layers.length === 0 && (
        <p className="mb-3 text-ink-2">
          Name the layers, and each ingredient gets a proposal for where it is.
        </p>
      )}
      {layers.length > 0 && (
        <p className="mb-2 text-sm text-ink-2">
          Where each one is: <Mark where="yes" /> in the layer, <Mark where="maybe" /> perhaps,{" "}
          <Mark where="no" /> not. Brackets and families propose; press to correct, a ring marks your own
          answer.
        </p>
      )}
      <table ref={table} className="w-full max-w-5xl">
        <thead>
          <tr className="border-b border-line text-left text-sm text-ink-2">
            <th className="py-1 font-normal">On the label</th>
            <th className="py-1 pl-3 font-normal">Taken for</th>
            {layers.map((layer) => (
              <th key={layer.id} className="w-20 px-1 py-1 text-center leading-tight font-normal">
                {layer.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {study.reading.statement.map((item) => (
            <tr
              key={item.key}
              data-wanted={item.key === wanted ? "" : undefined}
              className={`border-b border-line/60 ${item.key === wanted ? "bg-fern-100" : ""}`}
            >
              <NameCell item={item} bracket={brackets.get(item.key)} />
              <td className={`${layers.length > 3 ? "w-80" : "w-96"} py-0.5 pl-3`}>
                {!item.is_compound && !item.closed && <TakenFor item={item} />}
              </td>
              {layers.map((layer) => (
                <td key={layer.id} className="px-1 text-center">
                  {!item.is_compound && !item.closed && item.ingredient_id && (
                    <PlaceButton
                      item={item}
                      layer={layer}
                      placing={placings.get(`${item.key}|${layer.id}`) ?? null}
                    />
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

function NameCell({ item, bracket }: { item: StatementItem; bracket: Bracket | undefined }) {
  const remarks = [
    item.percent !== null && `${item.percent} %`,
    item.at_most_percent !== null && `at most ${item.at_most_percent} %`,
    item.class_name,
    item.source && `from ${item.source}`,
    item.alternatives.length > 0 && `or ${item.alternatives.join(", ")}`,
  ].filter(Boolean);
  return (
    <td className="py-1" style={{ paddingLeft: `${item.depth * 1.1}rem` }}>
      <span className={item.is_compound ? "font-semibold" : item.closed ? "text-ink-2" : ""}>
        {item.name}
      </span>
      {item.printed && <span className="ml-2 text-sm text-ink-2 italic">{item.printed}</span>}
      {remarks.length > 0 && <span className="ml-2 text-sm text-ink-2">{remarks.join(", ")}</span>}
      {bracket && <BracketMeaning bracket={bracket} name={item.name} />}
      {item.may_hold && <span className="block text-sm text-ink-2">outside the pantry: {item.may_hold}</span>}
    </td>
  );
}

const SHORT: Record<Meaning, string> = { ingredient: "ingredient", layer: "layer", parts: "parts" };

/** How a bracket is read: the three meanings side by side, the one in use filled; a press takes another. */
function BracketMeaning({ bracket, name }: { bracket: Bracket; name: string }) {
  const { study, change } = useMatch();
  const layers = study.study.layers.filter((layer) => bracket.layers.includes(layer.id));
  return (
    <span className="mt-0.5 block text-sm text-ink-2">
      <span
        role="group"
        aria-label={`The bracket after ${name} is`}
        className="mr-2 inline-flex overflow-hidden rounded border border-line align-middle"
      >
        {bracket.odds
          .filter((one) => one.possible)
          .map((one) => (
            <button
              key={one.meaning}
              type="button"
              aria-pressed={one.meaning === bracket.meaning}
              title={`${one.title} (${Math.round(100 * one.odds)} %)`}
              onClick={() => change((old) => withMeaning(old, bracket.item, one.meaning))}
              className={`px-2 py-0.5 ${one.meaning === bracket.meaning ? "bg-fern-700 text-card" : "hover:bg-fern-100"}`}
            >
              {SHORT[one.meaning]}
            </button>
          ))}
      </span>
      {bracket.corrected ? (
        <Button look="bare" onClick={() => change((old) => withMeaning(old, bracket.item, null))}>
          undo
        </Button>
      ) : (
        <span className="inline-block">{bracket.reason}</span>
      )}
      {bracket.meaning === "layer" && layers.length > 0 && (
        <>
          {" "}
          <span className="inline-block">→ {layers.map((one) => one.name).join(", ")}</span>
        </>
      )}
    </span>
  );
}

function TakenFor({ item }: { item: StatementItem }) {
  const { change, study } = useMatch();
  const { data: pantry } = useQuery(pantryQuery);
  const [adding, setAdding] = useState(false);
  const options = [...(pantry ?? []), ...study.reading.own_ingredients, { id: "none", name: "Leave it out" }];
  const chosen = item.ingredient_id ?? (item.corrected ? "none" : null);
  return (
    <span className="flex items-center gap-2">
      <span className="min-w-0 flex-1">
        <Choice
          label={`${item.name}, taken for`}
          options={options}
          value={chosen}
          placeholder={item.is_trace ? "A trace, left out" : "Not in the pantry: choose"}
          onChoose={(id) => change((old) => withCorrection(old, item.key, id))}
        />
      </span>
      <span className="w-20 shrink-0 text-sm">
        {item.corrected ? (
          <Button look="bare" onClick={() => change((old) => withCorrection(old, item.key, null))}>
            undo
          </Button>
        ) : item.unsure ? (
          <Button
            look="bare"
            aria-label={`${item.name} is ${item.ingredient_name ?? ""}: yes`}
            onClick={() => change((old) => withCorrection(old, item.key, item.ingredient_id))}
          >
            sure? yes
          </Button>
        ) : chosen === null && !item.is_trace ? (
          <Button look="bare" aria-label={`Add ${item.name} from its packet`} onClick={() => setAdding(true)}>
            add it
          </Button>
        ) : null}
      </span>
      {adding && <OwnIngredient item={item.key} name={item.name} onDone={() => setAdding(false)} />}
    </span>
  );
}

const NEXT: Record<Whereabouts, Whereabouts> = { yes: "maybe", maybe: "no", no: "yes" };
const WORDS: Record<Whereabouts, string> = { yes: "in it", maybe: "perhaps in it", no: "not in it" };
const SOURCES: Record<string, string> = {
  user: "your answer",
  brackets: "by the brackets",
  family: "by the families",
};

function PlaceButton({
  item,
  layer,
  placing,
}: {
  item: StatementItem;
  layer: { id: string; name: string };
  placing: Placing | null;
}) {
  const { change } = useMatch();
  const where = placing?.where ?? "no";
  const own = placing?.source === "user";
  const label = `${item.name} in ${layer.name}: ${WORDS[where]}, ${SOURCES[placing?.source ?? "family"]}`;
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      onClick={() => change((old) => withPlacement(old, item.key, layer.id, NEXT[where]))}
      onKeyDown={(event) => {
        if (event.key === "Delete" || event.key === "Backspace")
          change((old) => withPlacement(old, item.key, layer.id, null));
      }}
      className={`inline-flex size-7 items-center justify-center rounded-full hover:bg-fern-100 ${own ? "ring-2 ring-fern-600" : ""}`}
    >
      <Mark where={where} />
    </button>
  );
}

function Mark({ where }: { where: Whereabouts }) {
  return (
    <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden className="inline-block align-[-2px]">
      {where === "no" ? (
        <line x1="4" x2="10" y1="7" y2="7" className="stroke-ink-2" strokeWidth="1.5" />
      ) : (
        <>
          <rect
            x="2"
            y="2"
            width="10"
            height="10"
            rx="2"
            className="fill-none stroke-fern-700"
            strokeWidth="1.6"
          />
          <rect
            x="2"
            y={where === "yes" ? 2 : 7}
            width="10"
            height={where === "yes" ? 10 : 5}
            rx="1"
            className="fill-fern-700"
          />
        </>
      )}
    </svg>
  );
}
