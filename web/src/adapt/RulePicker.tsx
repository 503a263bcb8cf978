import { useState } from "react";
import type { Rules, VersionView } from "../api/types";
import { Cell } from "../ui/Cell";
import { Choice } from "../ui/Choice";
import { Button } from "../ui/Parts";
import { Select } from "../ui/Select";
import type { Asked } from "./AdaptPage";

interface RulePickerProps {
  rules: Rules;
  version: VersionView;
  /** The rules asked for, as the core reads them. */
  read: Rules["rules"];
  asked: Asked;
  ask: (next: Asked) => void;
}

const MOST_G = 30;

/** Which rules hold; of each that is picked: where it comes from, its limit, and what it does not promise. */
export function RulePicker({ rules, version, read, asked, ask }: RulePickerProps) {
  const kindOf = (rule: string) => rule.split(":")[0] ?? rule;
  const picked = new Set(asked.rules.map(kindOf));
  const toggle = (id: string) =>
    ask({
      ...asked,
      rules: picked.has(id) ? asked.rules.filter((one) => kindOf(one) !== id) : [...asked.rules, id],
    });
  const left = asked.rules.filter((one) => /^(without|at-most)-/.test(one));
  return (
    <section aria-label="Rules" className="rounded-lg border border-line bg-card px-4 py-3">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        {rules.rules.map((rule) => (
          <label key={rule.id} className="flex items-center gap-2 font-semibold">
            <input
              type="checkbox"
              className="size-4 accent-fern-700"
              checked={picked.has(rule.id)}
              onChange={() => toggle(rule.id)}
            />
            {rule.name}
          </label>
        ))}
        <Select
          label="A limit of your own"
          className="ml-auto w-28"
          value=""
          empty="At most …"
          options={rules.at_most
            .filter((one) => !picked.has(one.id))
            .map((one) => [`${one.id}:${one.grams}`, one.id.replace("at-most-", "")] as const)}
          onChoose={(rule) => ask({ ...asked, rules: [...asked.rules, rule] })}
        />
        <span className="w-40">
          <Choice
            label="Leave out"
            placeholder="Leave out …"
            value={null}
            options={leaveOut(rules.without, version).filter((one) => !picked.has(one.id))}
            onChoose={toggle}
          />
        </span>
      </div>
      {(left.length > 0 || asked.forbidden.length > 0) && (
        <ul className="mt-2 flex flex-wrap gap-2">
          {left.map((one) => (
            <Taken
              key={one}
              words={read.find((rule) => rule.id === kindOf(one))?.name ?? kindOf(one).replaceAll("-", " ")}
              drop={() => toggle(kindOf(one))}
            />
          ))}
          {asked.forbidden.map((one) => (
            <Taken
              key={one}
              words={`Not ${one.replaceAll("-", " ")}`}
              drop={() => ask({ ...asked, forbidden: asked.forbidden.filter((id) => id !== one) })}
            />
          ))}
        </ul>
      )}
      {read.length > 0 && asked.rules.length > 0 && (
        <ul className="mt-2 space-y-1 border-t border-line pt-2 text-sm text-ink-2">
          {read
            .filter((rule) => picked.has(rule.id))
            .map((rule) => (
              <li key={rule.id} className="flex flex-wrap items-center gap-x-3">
                <span className="min-w-0 flex-1">
                  <strong className="text-ink">{rule.name}</strong>: {rule.source}.{" "}
                  {promises(rule.promises_not)}.
                </span>
                {rule.limit !== null && rule.basis !== "share" && (
                  <Limit
                    key={`${rule.id} ${rule.limit}`}
                    name={rule.name}
                    limit={rule.limit}
                    typed={asked.rules.find((one) => kindOf(one) === rule.id)?.split(":")[1]}
                    unit={`g ${rule.measure} ${rule.basis.startsWith("100") ? "in" : "a"} ${rule.basis}`}
                    set={(typed) =>
                      ask({
                        ...asked,
                        rules: asked.rules.map((one) =>
                          kindOf(one) === rule.id ? `${rule.id}:${typed}` : one,
                        ),
                      })
                    }
                  />
                )}
              </li>
            ))}
        </ul>
      )}
    </section>
  );
}

const promises = (words: string) => (/^(nothing|no )/.test(words) ? `Promises ${words}` : `Mind: ${words}`);

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

/** A limit by figure or by pulling; it is asked for when the hand lets go. */
function Limit(props: {
  name: string;
  limit: number;
  typed: string | undefined;
  unit: string;
  set: (typed: string) => void;
}) {
  const { name, limit, typed, unit, set } = props;
  const [pulled, pull] = useState(limit);
  const most = Math.max(MOST_G, limit);
  const settle = () => {
    if (pulled !== limit) set(String(pulled));
  };
  return (
    <span className="flex shrink-0 items-center gap-2">
      <input
        type="range"
        aria-label={`Limit of ${name}`}
        className="w-32 accent-fern-700"
        min={0}
        max={most}
        step={limit < 1 ? 0.1 : 0.5}
        value={pulled}
        onChange={(event) => pull(Number(event.target.value))}
        onPointerUp={settle}
        onKeyUp={settle}
        onBlur={settle}
      />
      <Cell
        label={`Limit of ${name} in grams`}
        className="w-16"
        align="right"
        value={pulled === limit ? (typed ?? String(limit)) : String(pulled)}
        onCommit={set}
      />
      <span>{unit}</span>
    </span>
  );
}

/** Allergens first, then what the version holds. */
function leaveOut(without: string[], version: VersionView) {
  const lines = version.layers.flatMap((layer) => layer.lines).filter((line) => line.known);
  const own = new Map(lines.map((line) => [`without-${line.ingredient_id}`, line.name]));
  return [
    ...without.map((id) => ({ id, name: id.replace("without-", "") })),
    ...[...own].map(([id, name]) => ({ id, name })),
  ];
}
