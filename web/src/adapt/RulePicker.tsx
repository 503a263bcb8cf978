import { useState } from "react";
import type { Rules, VersionView } from "../api/types";
import { Cell } from "../ui/Cell";
import { Choice } from "../ui/Choice";
import { Button } from "../ui/Parts";
import { Select } from "../ui/Select";
import type { Asked } from "./asked";
import { basisOf, kindOf, limitOf, withLimit } from "./asked";

interface RulePickerProps {
  rules: Rules;
  version: VersionView;
  /** The rules asked for, as the core reads them. */
  read: Rules["rules"];
  /** Of ingredients that are refused or must be used. */
  names: Record<string, string>;
  asked: Asked;
  ask: (next: Asked) => void;
}

/** Which rules hold; of each that is picked: where it comes from, its limit, and what it does not promise. */
export function RulePicker({ rules, version, read, names, asked, ask }: RulePickerProps) {
  const picked = new Set(asked.rules.map(kindOf));
  const drop = (id: string) =>
    ask({ ...asked, rules: asked.rules.filter((one) => kindOf(one) !== kindOf(id)) });
  const add = (rule: string) => ask({ ...asked, rules: [...asked.rules, rule] });
  const replace = (old: string, next: string) =>
    ask({ ...asked, rules: asked.rules.map((one) => (kindOf(one) === kindOf(old) ? next : one)) });
  const own = asked.rules.filter(
    (one) => /^(without|at-most|at-least|no)-/.test(one) && !isShipped(one, rules),
  );
  return (
    <section aria-label="Rules" className="rounded-lg border border-line bg-card px-4 py-3">
      <div className="flex flex-wrap items-start justify-between gap-x-4 gap-y-2">
        <div className="flex min-w-72 flex-1 flex-wrap items-center gap-x-4 gap-y-1">
          {rules.rules
            .filter((rule) => !rule.variant_of)
            .map((rule) => {
              const kinds = variants(rule.id, rules).map((one) => one.id);
              const mine = asked.rules.find((one) => kinds.includes(kindOf(one)));
              return (
                <label key={rule.id} className="flex items-center gap-1.5 font-semibold">
                  <input
                    type="checkbox"
                    className="size-4 accent-fern-700"
                    checked={mine !== undefined}
                    onChange={() => (mine === undefined ? add(rule.id) : drop(mine))}
                  />
                  {rule.name}
                </label>
              );
            })}
        </div>
        <div className="flex items-center gap-3">
          <Select
            label="A limit of your own"
            className="w-28"
            value=""
            empty="Limit …"
            options={rules.own
              .filter((one) => !picked.has(one.id))
              .map((one) => [`${one.id}:${one.amount}`, one.name] as const)}
            onChoose={add}
          />
          <span className="w-36">
            <Choice
              label="Leave out"
              placeholder="Leave out …"
              value={null}
              options={leaveOut(rules, version).filter((one) => !picked.has(one.id))}
              onChoose={add}
            />
          </span>
        </div>
      </div>
      <Chips own={own} read={read} names={names} asked={asked} ask={ask} drop={drop} />
      {read.length > 0 && asked.rules.length > 0 && (
        <ul className="mt-2 space-y-1 border-t border-line pt-2 text-sm text-ink-2">
          {read
            .filter((rule) => picked.has(rule.id))
            .map((rule) => (
              <li key={rule.id} className="flex flex-wrap items-center gap-x-3">
                <span className={rule.limit === null ? "min-w-0 flex-1" : "w-full"}>
                  <strong className="text-ink">{rule.name}</strong>: {rule.source}.{" "}
                  {promises(rule.promises_not)}.
                </span>
                {variants(rule.variant_of || rule.id, rules).length > 1 && (
                  <Select
                    label={choosing(rule, variants(rule.variant_of || rule.id, rules))}
                    className="w-44"
                    value={rule.id}
                    options={variants(rule.variant_of || rule.id, rules).map(
                      (one, _, all) => [one.id, telling(one, all)] as const,
                    )}
                    onChoose={(id) => replace(rule.id, withKind(asked.rules, rule.id, id))}
                  />
                )}
                {rule.limit !== null && (
                  <Limit
                    key={`${rule.id} ${rule.limit}`}
                    rule={rule}
                    limit={rule.limit}
                    typed={limitOf(asked.rules.find((one) => kindOf(one) === rule.id) ?? "")}
                    set={(typed, basis) => replace(rule.id, withLimit(rule.id, typed, basis))}
                  />
                )}
              </li>
            ))}
        </ul>
      )}
    </section>
  );
}

const isShipped = (asked: string, rules: Rules) => rules.rules.some((rule) => rule.id === kindOf(asked));
const variants = (id: string, rules: Rules) =>
  rules.rules.filter((rule) => rule.id === id || rule.variant_of === id);
const withKind = (asked: string[], old: string, next: string) =>
  (asked.find((one) => kindOf(one) === old) ?? old).replace(old, next);
const promises = (words: string) => (/^(nothing|no )/.test(words) ? `Promises ${words}` : `Mind: ${words}`);
const choosing = (rule: Rules["rules"][number], all: Rules["rules"]) =>
  all.every((one) => one.measure === rule.measure)
    ? `How much ${rule.measure}`
    : `How ${rule.measure.split(",")[0]} is counted`;
/** By how they count where they count differently; by their names where they do not. */
const telling = (rule: Rules["rules"][number], all: Rules["rules"]) =>
  all.every((one) => one.measure === rule.measure)
    ? rule.name
    : (rule.measure.split(", ")[1] ?? "half of polyols off");

interface ChipsProps {
  own: string[];
  read: Rules["rules"];
  names: Record<string, string>;
  asked: Asked;
  ask: (next: Asked) => void;
  drop: (rule: string) => void;
}

/** What is asked for beside the usual rules, each to be dropped. */
function Chips({ own, read, names, asked, ask, drop }: ChipsProps) {
  if (own.length + asked.forbidden.length + asked.required.length === 0) return null;
  const nameOf = (key: string) => lower(names[key] ?? key.replaceAll("-", " "));
  return (
    <ul className="mt-2 flex flex-wrap gap-2">
      {own.map((one) => (
        <Taken
          key={one}
          words={read.find((rule) => rule.id === kindOf(one))?.name ?? kindOf(one).replaceAll("-", " ")}
          drop={() => drop(one)}
        />
      ))}
      {asked.required.map((one) => (
        <Taken
          key={one}
          words={`With ${nameOf(one.split(":")[1] ?? one)}`}
          drop={() => ask({ ...asked, required: asked.required.filter((id) => id !== one) })}
        />
      ))}
      {asked.forbidden.map((one) => (
        <Taken
          key={one}
          words={`Not ${nameOf(one)}`}
          drop={() => ask({ ...asked, forbidden: asked.forbidden.filter((id) => id !== one) })}
        />
      ))}
    </ul>
  );
}

const lower = (words: string) => `${words.charAt(0).toLowerCase()}${words.slice(1)}`;

function Taken({ words, drop }: { words: string; drop: () => void }) {
  return (
    <li className="flex items-baseline gap-2 rounded border border-line bg-linen px-2 py-0.5 text-sm">
      {words}
      <Button look="bare" aria-label={`Drop “${words}”`} onClick={drop}>
        drop
      </Button>
    </li>
  );
}

const MOST: Record<string, number> = { g: 30, kcal: 300 };
const BASES = [
  ["", "a piece"],
  ["serving", "a serving"],
  ["100g", "in 100 g"],
] as const;

/** A limit by figure or by pulling; it is asked for when the hand lets go. */
function Limit(props: {
  rule: Rules["rules"][number];
  limit: number;
  typed: string | undefined;
  set: (typed: string, basis: string) => void;
}) {
  const { rule, typed, set } = props;
  const share = rule.basis === "share";
  const times = share ? 100 : 1; // a share of the version is shown in per cent
  const limit = Number((props.limit * times).toFixed(6));
  const [pulled, pull] = useState(limit);
  const basis = share ? "" : basisOf(rule.basis);
  const unit = share ? "%" : rule.unit;
  const most = share ? 100 : Math.max((MOST[rule.unit] ?? 30) * (basis === "100g" ? 2 : 1), limit);
  const ask = (words: string) => {
    const figure = Number(words);
    set(share && words.trim() !== "" && Number.isFinite(figure) ? String(figure / times) : words, basis);
  };
  const settle = () => {
    if (pulled !== limit) ask(String(pulled));
  };
  const shown = share ? String(limit) : (typed ?? String(limit));
  return (
    <span className="flex shrink-0 items-center gap-2">
      <input
        type="range"
        aria-label={`Limit of ${rule.name}`}
        className="w-28 accent-fern-700"
        min={0}
        max={most}
        step={share || rule.unit === "kcal" ? 5 : limit < 1 ? 0.1 : 0.5}
        value={pulled}
        onChange={(event) => pull(Number(event.target.value))}
        onPointerUp={settle}
        onKeyUp={settle}
        onBlur={settle}
      />
      <Cell
        label={`Limit of ${rule.name} in ${unit === "g" ? "grams" : unit}`}
        className="w-16"
        align="right"
        value={pulled === limit ? shown : String(pulled)}
        onCommit={ask}
      />
      <span>
        {unit} {share ? `less ${rule.measure}` : rule.measure.split(",")[0]}
      </span>
      {share ? (
        <span>than now</span>
      ) : rule.by_law ? (
        <span>{rule.a_basis}</span>
      ) : (
        <Select
          label={`What the limit of ${rule.name} is for`}
          className="w-28"
          value={basis}
          options={BASES}
          onChoose={(next) => set(typed ?? String(limit), next)}
        />
      )}
    </span>
  );
}

/** Allergens first, then what the version holds, then whole categories. */
function leaveOut(rules: Rules, version: VersionView) {
  const lines = version.layers.flatMap((layer) => layer.lines).filter((line) => line.known);
  const own = new Map(lines.map((line) => [`without-${line.ingredient_id}`, line.name]));
  return [
    ...rules.without.map((id) => ({ id, name: id.replace("without-", "").replaceAll("-", " ") })),
    ...[...own].map(([id, name]) => ({ id, name })),
    ...rules.categories.map((id) => ({ id, name: `any ${id.replace("no-", "").replaceAll("-", " ")}` })),
  ];
}
