import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Gear, GearKind, GearOut, GearShape, Kitchen, KitchenOut } from "../api/types";
import { freshId } from "../app/ids";
import { Cell } from "../ui/Cell";
import { Button } from "../ui/Parts";
import { Select } from "../ui/Select";
import { usualGearQuery } from "./kitchenApi";

type CellName = "length" | "width" | "depth" | "volume" | "cavities";

const KINDS: readonly (readonly [GearKind, string])[] = [
  ["pan", "Pan or frame"],
  ["mould", "Mould"],
  ["cup", "Lined cups"],
  ["scoop", "Scoop"],
  ["cutter", "Cutter"],
  ["bowl", "Bowl"],
];
const SHAPES: Record<GearShape, string> = {
  rectangle: "straight",
  round: "round",
  "half sphere": "half sphere",
  "tapered cup": "wider above",
  other: "other",
};
const CELLS: readonly (readonly [CellName, string])[] = [
  ["length", "Long or across"],
  ["width", "Wide"],
  ["depth", "Deep"],
  ["volume", "Holds"],
  ["cavities", "Cavities"],
];

/** Pans, moulds, scoops and bowls, kept once for all matches. */
export function GearTable({
  kitchen,
  change,
}: {
  kitchen: KitchenOut;
  change: (part: Partial<Kitchen>) => void;
}) {
  const own = kitchen.kitchen.gear;
  const edit = (id: string, part: Partial<Gear>) =>
    change({ gear: own.map((one) => (one.id === id ? { ...one, ...part } : one)) });
  return (
    <section aria-labelledby="gear" className="rounded-lg border border-line bg-card px-5 py-4">
      <div className="mb-2 flex flex-wrap items-end justify-between gap-3">
        <h2 id="gear" className="text-lg">
          Gear
        </h2>
        <AddGear onAdd={(gear) => change({ gear: [...own, gear] })} />
      </div>
      {own.length === 0 ? (
        <p className="text-ink-2">
          None yet. Add a pan, a mould, a scoop or a bowl, and a batch can be made to it.
        </p>
      ) : (
        <table className="w-full" data-cells>
          <thead>
            <tr className="border-b border-line text-left text-sm text-ink-2">
              <th className="py-1 align-bottom font-normal">Name</th>
              <th className="w-26 py-1 pl-2 align-bottom font-normal min-[1200px]:w-28">Inside</th>
              {CELLS.map(([, title]) => (
                <th key={title} className="w-19 py-1 pl-2 align-bottom font-normal min-[1200px]:w-24">
                  {title}
                </th>
              ))}
              <th className="w-16 min-[1200px]:w-20" />
            </tr>
          </thead>
          <tbody>
            {own.map((gear) => (
              <Row
                key={gear.id}
                gear={gear}
                seen={kitchen.gear.find((one) => one.gear.id === gear.id)}
                onEdit={(part) => edit(gear.id, part)}
                onRemove={() => change({ gear: own.filter((one) => one.id !== gear.id) })}
              />
            ))}
          </tbody>
        </table>
      )}
      <p className="mt-3 text-sm text-ink-2">
        Sizes are inside, in mm, cm or inches. What a cavity holds is best weighed: fill it with water and
        write “14.5 g”. A scoop goes by its number, “#40”.
      </p>
    </section>
  );
}

interface RowProps {
  gear: Gear;
  seen: GearOut | undefined;
  onEdit: (part: Partial<Gear>) => void;
  onRemove: () => void;
}

function Row({ gear, seen, onEdit, onRemove }: RowProps) {
  const shapes = seen?.shapes ?? [gear.shape];
  return (
    <>
      <tr className="align-top">
        <td className="py-1">
          <Cell
            label={`Name of ${gear.name}`}
            value={gear.name}
            onCommit={(name) => name.trim() && onEdit({ name })}
          />
        </td>
        <td className="py-1 pl-2">
          {shapes.length > 1 && (
            <Select
              label={`Inside of ${gear.name}`}
              value={gear.shape}
              options={shapes.map((shape) => [shape, SHAPES[shape]] as const)}
              onChoose={(shape) => onEdit({ shape })}
            />
          )}
        </td>
        {CELLS.map(([field, title]) => (
          <td key={field} className="py-1 pl-2">
            {seen?.cells[field] && (
              <Cell
                label={`${gear.name}, ${title.toLowerCase()}`}
                value={gear[field]}
                problem={seen.cells[field].problem}
                onCommit={(typed) => onEdit({ [field]: typed })}
              />
            )}
          </td>
        ))}
        <td className="py-1.5 pl-2 text-right">
          <Button look="bare" aria-label={`Remove ${gear.name}`} onClick={onRemove}>
            Remove
          </Button>
        </td>
      </tr>
      <tr className="border-b border-line/60">
        <td colSpan={8} className="pb-1.5 text-sm text-ink-2">
          <span className="flex flex-wrap items-center gap-x-4">
            {seen?.words && <span>{seen.words}</span>}
            {seen?.may_be_halves && (
              <label className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  className="size-4 accent-fern-700"
                  checked={gear.halves}
                  onChange={(event) => onEdit({ halves: event.target.checked })}
                />
                two halves make a piece
              </label>
            )}
            {seen?.problem && <span className="text-amber-ink">{seen.problem}</span>}
          </span>
        </td>
      </tr>
    </>
  );
}

/** A usual size to begin with, or one's own. */
function AddGear({ onAdd }: { onAdd: (gear: Gear) => void }) {
  const { data } = useQuery(usualGearQuery);
  const [kind, setKind] = useState<GearKind>("pan");
  const usual = (data ?? []).filter(({ gear }) => gear.kind === kind);
  const add = (chosen: string) => {
    const found = usual.find(({ gear }) => gear.id === chosen);
    if (found) onAdd({ ...found.gear, id: freshId("gear") });
  };
  return (
    <div className="flex flex-wrap items-end gap-2">
      <Select showLabel label="Kind" value={kind} options={KINDS} onChoose={setKind} className="w-36" />
      <Select
        showLabel
        label="Add gear"
        value=""
        empty="Choose a size …"
        className="w-72"
        options={usual.map(({ gear, words, note }) => [gear.id, `${gear.name}: ${words || note}`] as const)}
        onChoose={add}
      />
    </div>
  );
}
