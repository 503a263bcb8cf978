import { useState } from "react";
import type { Batch, Packs, ShoppingLine, Stock, Typed } from "../api/types";
import { useKitchen } from "../kitchen/kitchenApi";
import { Cell, told } from "../ui/Cell";
import { figure } from "../ui/figures";
import { Button } from "../ui/Parts";
import { PacksTable } from "./PacksTable";
import { Tick } from "./Tick";

interface ShoppingProps {
  scaled: Batch;
  /** Shown beside grams: oz, or nothing more. */
  unit: string;
  stock: Stock | null;
  /** What the house is enough for. */
  words: string;
  inHouse: Record<string, Typed>;
  /** What stands in the fields, edits not yet answered included. */
  typed: Record<string, string>;
  onInHouse: (foodId: string, typed: string) => void;
  packs: Packs | null;
}

/** What the batch takes in all, what of it is in the house, and what to buy. */
export function Shopping(props: ShoppingProps) {
  const { scaled, unit, stock, words, inHouse, typed, onInHouse, packs } = props;
  const [inPacks, setInPacks] = useState(false);
  const { kitchen, change } = useKitchen();
  return (
    <section>
      <div className="flex items-baseline justify-between gap-3">
        <h2 className="text-lg">To have ready</h2>
        {packs && kitchen && (
          <Button look="bare" className="no-print text-sm" onClick={() => setInPacks(!inPacks)}>
            {inPacks ? "In the house" : "In packs, with cost"}
          </Button>
        )}
      </div>
      {inPacks && packs && kitchen ? (
        <PacksTable scaled={scaled} packs={packs} kitchen={kitchen} change={change} />
      ) : (
        <>
          <p className="no-print mb-2 text-sm text-ink-2">{words}</p>
          <div className="print-columns">
            <table className="w-full print:text-sm" data-cells>
              <thead>
                <tr className="border-b border-line text-left text-sm text-ink-2">
                  <th className="py-1 font-normal">Ingredient</th>
                  <th className="w-20 py-1 text-right font-normal">Takes</th>
                  <th className="no-print w-28 py-1 pl-3 font-normal">In the house</th>
                </tr>
              </thead>
              <tbody>
                {scaled.shopping.map((line) => (
                  <Line
                    key={line.ingredient_id}
                    line={line}
                    unit={unit}
                    stock={stock?.lines[line.ingredient_id]}
                    field={inHouse[line.ingredient_id]}
                    typed={typed[line.ingredient_id] ?? ""}
                    onInHouse={(text) => onInHouse(line.ingredient_id, text)}
                  />
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
    </section>
  );
}

interface LineProps {
  line: ShoppingLine;
  unit: string;
  stock: Stock["lines"][string] | undefined;
  field: Typed | undefined;
  typed: string;
  onInHouse: (typed: string) => void;
}

function Line({ line, unit, stock, field, typed, onInHouse }: LineProps) {
  const { problem, hint } = told(field);
  const note = problem ?? hint;
  return (
    <>
      <tr className={`align-top ${note ? "" : "border-b border-line/60"}`}>
        <td className="py-1 leading-tight">
          <Tick />
          {line.name}
          <span className="block text-sm text-ink-2 print:ml-2 print:inline">{beside(line, unit)}</span>
        </td>
        <td className="py-1 text-right whitespace-nowrap">
          {amount(line)}
          {stock && toBuy(stock)}
        </td>
        <td className="no-print py-0.5 pl-3">
          <Cell label={`${line.name}, in the house`} value={typed} align="right" onCommit={onInHouse} />
        </td>
      </tr>
      {note && (
        <tr className="border-b border-line/60">
          <td
            colSpan={3}
            className={`pb-1.5 text-right text-sm leading-tight ${problem ? "text-amber-ink" : "text-ink-2"}`}
          >
            {note}
          </td>
        </tr>
      )}
    </>
  );
}

/** What to buy; where a cup or spoon cannot tell whether there is enough, the scale can. */
function toBuy(stock: Stock["lines"][string]) {
  if (stock.unsure) return <span className="block text-sm">weigh it</span>;
  return stock.missing_g > 0 && <strong className="block text-sm">buy {grams(stock.missing_g)}</strong>;
}

/** The amount in the kitchen’s other measures, and allergens. */
function beside(line: ShoppingLine, unit: string): string {
  const ounces = unit === "oz" ? `${figure(line.ounces, 2)} oz` : null;
  const allergens = allergensOf(line);
  const uses = line.uses.length > 0 ? `for ${line.uses.join(" and ")}` : null;
  return [ounces, line.scooped?.words, uses, allergens].filter(Boolean).join("; ");
}

/** In grams; of what was not read, that more is needed or that it is not known. */
function amount({ grams: known, unread }: ShoppingLine) {
  if (!unread) return grams(known);
  return known > 0 ? <>{grams(known)} and more</> : "not known";
}

const grams = (value: number) => (
  <>
    {figure(value, value >= 10 ? 0 : 1)} <span className="text-sm font-normal text-ink-2">g</span>
  </>
);

/** What the packet is known to hold; where it is not all known, that it may hold more. */
function allergensOf({ allergens, allergens_known }: ShoppingLine): string | null {
  if (allergens.length > 0)
    return `holds ${allergens.join(", ")}${allergens_known ? "" : ", perhaps others"}`;
  return allergens_known ? null : "allergens not known";
}
