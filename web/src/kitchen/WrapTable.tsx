import { useState } from "react";
import type { Kitchen, KitchenOut, Wrap, WrapKind } from "../api/types";
import { freshId } from "../app/ids";
import { Cell, told } from "../ui/Cell";
import { Button } from "../ui/Parts";
import { Select } from "../ui/Select";

type CellName = "holds" | "length" | "width" | "pack" | "price";

const KINDS: readonly (readonly [WrapKind, string])[] = [
  ["case", "Paper cases"],
  ["sheet", "Foil, film or paper"],
  ["liner", "Pan liners"],
  ["bag", "Bags"],
  ["box", "Boxes"],
];
const CELLS: readonly (readonly [CellName, string, string])[] = [
  ["holds", "Pieces in one", "6"],
  ["length", "Roll, long", "10 m"],
  ["width", "Roll, wide", "300 mm"],
  ["pack", "In a pack", "50"],
  ["price", "Price of a pack", "3.20"],
];

/** What pieces are wrapped in, kept once for all matches; only what is meant for food is counted. */
export function WrapTable({
  kitchen,
  change,
}: {
  kitchen: KitchenOut;
  change: (part: Partial<Kitchen>) => void;
}) {
  const own = kitchen.kitchen.wraps;
  const edit = (id: string, part: Partial<Wrap>) =>
    change({ wraps: own.map((one) => (one.id === id ? { ...one, ...part } : one)) });
  return (
    <section aria-labelledby="wrapping" className="rounded-lg border border-line bg-card px-5 py-4">
      <div className="mb-2 flex flex-wrap items-end justify-between gap-3">
        <h2 id="wrapping" className="text-lg">
          Wrapping
        </h2>
        <AddWrap onAdd={(wrap) => change({ wraps: [...own, wrap] })} />
      </div>
      {own.length === 0 ? (
        <p className="text-ink-2">
          None yet. Add cases, foil, bags or boxes, and a batch counts them and says what they cost.
        </p>
      ) : (
        <table className="w-full" data-cells>
          <thead>
            <tr className="border-b border-line text-left text-sm text-ink-2">
              <th className="py-1 align-bottom font-normal">Name</th>
              {CELLS.map(([, title]) => (
                <th key={title} className="w-19 py-1 pl-2 align-bottom font-normal min-[1200px]:w-24">
                  {title}
                </th>
              ))}
              <th className="w-20 py-1 pl-3 font-normal min-[1200px]:w-28">Meant for food</th>
              <th className="w-16 min-[1200px]:w-20" />
            </tr>
          </thead>
          <tbody>
            {own.map((wrap) => {
              const seen = kitchen.wraps.find((one) => one.wrap.id === wrap.id);
              return (
                <tr key={wrap.id} className="border-b border-line/60 align-top">
                  <td className="py-1">
                    <Cell
                      label={`Name of ${wrap.name}`}
                      value={wrap.name}
                      onCommit={(name) => name.trim() && edit(wrap.id, { name })}
                    />
                  </td>
                  {CELLS.map(([field, title, placeholder]) => (
                    <td key={field} className="py-1 pl-2">
                      {seen?.cells[field] && (
                        <Cell
                          label={`${wrap.name}, ${title.toLowerCase()}`}
                          value={wrap[field]}
                          {...told(seen.cells[field])}
                          placeholder={placeholder}
                          onCommit={(typed) => edit(wrap.id, { [field]: typed })}
                        />
                      )}
                    </td>
                  ))}
                  <td className="py-2 pl-3">
                    <input
                      type="checkbox"
                      aria-label={`${wrap.name} is meant for food`}
                      className="size-4 accent-fern-700"
                      checked={wrap.for_food}
                      onChange={(event) => edit(wrap.id, { for_food: event.target.checked })}
                    />
                  </td>
                  <td className="py-1.5 pl-2 text-right">
                    <Button
                      look="bare"
                      aria-label={`Remove ${wrap.name}`}
                      onClick={() => change({ wraps: own.filter((one) => one.id !== wrap.id) })}
                    >
                      Remove
                    </Button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      <p className="mt-3 text-sm text-ink-2">
        Tick what its packet says is meant for food: colours, foils and ribbons of the craft shop often are
        not.
      </p>
    </section>
  );
}

function AddWrap({ onAdd }: { onAdd: (wrap: Wrap) => void }) {
  const [kind, setKind] = useState<WrapKind>("case");
  const name = KINDS.find(([id]) => id === kind)?.[1] ?? "";
  return (
    <div className="flex items-end gap-2">
      <Select
        showLabel
        label="Wrapping to add"
        value={kind}
        options={KINDS}
        onChoose={setKind}
        className="w-44"
      />
      <Button
        onClick={() =>
          onAdd({
            id: freshId("wrap"),
            name,
            kind,
            holds: "",
            length: "",
            width: "",
            pack: "",
            price: "",
            for_food: false,
          })
        }
      >
        Add it
      </Button>
    </div>
  );
}
