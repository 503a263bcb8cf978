import type { Batch, Kitchen, KitchenOut, Packs } from "../api/types";
import { Cell, told } from "../ui/Cell";
import { figure } from "../ui/figures";

interface PacksTableProps {
  scaled: Batch;
  packs: Packs;
  kitchen: KitchenOut;
  change: (edit: (old: Kitchen) => Kitchen) => void;
}

/** What to buy, in the packs it is sold in: how many, what they cost, what stays in them. */
export function PacksTable({ scaled, packs, kitchen, change }: PacksTableProps) {
  const own = kitchen.kitchen.packs;
  const set = (id: string, part: { size?: string; price?: string }) =>
    change((old) => {
      const known = old.packs.find((one) => one.id === id) ?? { id, size: "", price: "" };
      const others = old.packs.filter((one) => one.id !== id);
      const changed = { ...known, ...part };
      return { ...old, packs: changed.size || changed.price ? [...others, changed] : others };
    });
  return (
    <div>
      <p className="mb-2 text-sm text-ink-2">{packs.words}</p>
      <table className="w-full" data-cells>
        <thead>
          <tr className="border-b border-line text-left text-sm text-ink-2">
            <th className="py-1 font-normal">Ingredient</th>
            <th className="w-20 py-1 pl-2 font-normal">Pack</th>
            <th className="w-16 py-1 pl-2 font-normal">Price</th>
          </tr>
        </thead>
        <tbody>
          {scaled.shopping.map((line) => {
            const typed = own.find((one) => one.id === line.ingredient_id);
            const read = kitchen.packs[line.ingredient_id];
            const buy = packs.lines[line.ingredient_id];
            return (
              <tr key={line.ingredient_id} className="border-b border-line/60 align-top">
                <td className="py-1 leading-tight">
                  {line.name}
                  <span className="block text-sm text-ink-2">
                    {buy
                      ? `${buy.packs} ${buy.packs === 1 ? "pack" : "packs"}${buy.cost === null ? "" : `, ${figure(buy.cost, 2)}`}; ${figure(buy.left_g, 0)} g stay in`
                      : `takes ${figure(line.grams, line.grams < 10 ? 1 : 0)} g`}
                  </span>
                </td>
                <td className="py-0.5 pl-2">
                  <Cell
                    label={`${line.name}, pack`}
                    value={typed?.size ?? ""}
                    {...told(read?.size)}
                    placeholder="200 g"
                    onCommit={(size) => set(line.ingredient_id, { size })}
                  />
                </td>
                <td className="py-0.5 pl-2">
                  <Cell
                    label={`${line.name}, price of a pack`}
                    value={typed?.price ?? ""}
                    {...told(read?.price)}
                    align="right"
                    onCommit={(price) => set(line.ingredient_id, { price })}
                  />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
