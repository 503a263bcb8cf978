import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { BatchOut, BatchPlan, Lot } from "../api/types";
import { freshId } from "../app/ids";
import { pantryQuery } from "../study/studyApi";
import { Cell, told } from "../ui/Cell";
import { Choice } from "../ui/Choice";
import { figure } from "../ui/figures";
import { Button, Notice } from "../ui/Parts";
import { Select } from "../ui/Select";

const LEFT_OUT = "none";

interface LotsPartProps {
  batch: BatchOut;
  plan: BatchPlan;
  change: (edit: (old: BatchPlan) => BatchPlan) => void;
}

/** Pieces of this bowl that are made otherwise: how many, how they are told apart, what each weighs and holds. */
export function LotsPart({ batch, plan, change }: LotsPartProps) {
  const lots = plan.lots;
  const edit = (id: string, part: Partial<Lot>) =>
    change((old) => ({
      ...old,
      lots: old.lots.map((one) => (one.id === id ? { ...one, ...part } : one)),
    }));
  const add = () => {
    const lot: Lot = { id: freshId("lot"), name: "", pieces: "", mark: "", instead: {} };
    change((old) => ({ ...old, lots: [...old.lots, lot] }));
  };
  const rest = batch.lots.find((one) => one.id === "");
  return (
    <section aria-label="Lots from this bowl" className="mt-6 print:mt-2">
      <div className="flex flex-wrap items-baseline gap-4">
        <h2 className={`text-lg ${lots.length ? "" : "no-print"}`}>Lots from this bowl</h2>
        <Button look="bare" className="no-print text-sm" onClick={add}>
          {lots.length ? "Another lot" : "Make some of the pieces otherwise"}
        </Button>
      </div>
      {lots.length === 0 ? (
        <p className="no-print text-sm text-ink-2">
          Some without nuts, with another crust, in a spare mould: each lot has its count, its mark, its
          allergens and its card.
        </p>
      ) : (
        <>
          {batch.lots_words && <p className="mt-1 mb-2 max-w-3xl">{batch.lots_words}</p>}
          <ul className="divide-y divide-line/60 border-y border-line">
            {lots.map((lot, number) => (
              <LotRow
                key={lot.id}
                lot={lot}
                number={number + 1}
                batch={batch}
                onEdit={(part) => edit(lot.id, part)}
                onRemove={() =>
                  change((old) => ({ ...old, lots: old.lots.filter((one) => one.id !== lot.id) }))
                }
              />
            ))}
            {rest && (
              <li className="py-2">
                <span className="font-semibold">{rest.name}</span>: {rest.pieces} pieces of{" "}
                {figure(rest.piece_g, 1)} g. <span className="text-sm text-ink-2">{rest.allergens}</span>
                {rest.traces && <Traces words={rest.traces} />}
              </li>
            )}
          </ul>
        </>
      )}
    </section>
  );
}

function Traces({ words }: { words: string }) {
  return (
    <div className="mt-1 max-w-3xl">
      <Notice tone="berry">
        <strong>Traces.</strong> {words}
      </Notice>
    </div>
  );
}

interface LotRowProps {
  lot: Lot;
  number: number;
  batch: BatchOut;
  onEdit: (part: Partial<Lot>) => void;
  onRemove: () => void;
}

function LotRow({ lot, number, batch, onEdit, onRemove }: LotRowProps) {
  const called = lot.name || `Lot ${number}`;
  const made = batch.lots.find((one) => one.id === lot.id);
  const cells = batch.lot_cells[lot.id];
  return (
    <li className="py-2">
      <div className="no-print flex flex-wrap items-start gap-x-3 gap-y-2" data-cells>
        <Cell
          showLabel
          className="w-40"
          label={`Name of lot ${number}`}
          value={lot.name}
          placeholder="Without nuts"
          onCommit={(name) => onEdit({ name })}
        />
        <Cell
          showLabel
          className="w-24"
          label={`Pieces of lot ${number}`}
          value={lot.pieces}
          {...told(cells?.pieces)}
          placeholder="8"
          onCommit={(pieces) => onEdit({ pieces })}
        />
        <Cell
          showLabel
          className="w-52"
          label={`Mark or mould of lot ${number}`}
          value={lot.mark}
          placeholder="a line across the top"
          onCommit={(mark) => onEdit({ mark })}
        />
        <Button look="bare" className="mt-6 ml-auto" aria-label={`Remove ${called}`} onClick={onRemove}>
          Remove
        </Button>
      </div>
      <Otherwise lot={lot} called={called} batch={batch} onEdit={onEdit} />
      {cells?.problem && <Notice>{cells.problem}</Notice>}
      {made && (
        <div className="mt-1.5 max-w-3xl space-y-1">
          <p>
            <span className="font-semibold">{made.name}</span>: {made.pieces} pieces
            {made.mark && <span className="hidden print:inline"> ({made.mark})</span>}. {made.words}
          </p>
          {made.allergens && <p className="text-sm text-ink-2">{made.allergens}</p>}
          {made.traces && <Traces words={made.traces} />}
        </div>
      )}
    </li>
  );
}

/** What is otherwise in a lot: parts left out, or something else in their place. */
function Otherwise({
  lot,
  called,
  batch,
  onEdit,
}: Pick<LotRowProps, "lot" | "batch" | "onEdit"> & { called: string }) {
  const { data: pantry } = useQuery(pantryQuery);
  const [part, setPart] = useState("");
  const instead = lot.instead ?? {};
  const set = (key: string, other: string | null) => {
    const others = Object.fromEntries(Object.entries(instead).filter(([one]) => one !== key));
    onEdit({ instead: other === null ? others : { ...others, [key]: other } });
  };
  const nameOf = (id: string) => batch.lot_parts.find((one) => one.id === id)?.name ?? "what is gone";
  const foodOf = (id: string) => pantry?.find((one) => one.id === id)?.name ?? id;
  const open = batch.lot_parts.filter((one) => !(one.id in instead));
  return (
    <div className="no-print mt-2 flex flex-wrap items-center gap-x-3 gap-y-1.5 text-sm">
      {Object.entries(instead).map(([key, other]) => (
        <span key={key} className="rounded bg-fern-100 px-2 py-0.5">
          {other === LEFT_OUT
            ? `without ${nameOf(key).toLowerCase()}`
            : `${foodOf(other)} in place of ${nameOf(key).toLowerCase()}`}
          <button
            type="button"
            className="ml-1.5 text-ink-2 hover:text-ink"
            aria-label={`${called}: ${nameOf(key)} as in the version again`}
            onClick={() => set(key, null)}
          >
            ×
          </button>
        </span>
      ))}
      <Select
        label={`${called}, what is otherwise`}
        value={part}
        empty="What is otherwise …"
        className="w-52"
        options={open.map((one) => [one.id, one.name] as const)}
        onChoose={setPart}
      />
      {part && (
        <>
          <Button
            onClick={() => {
              set(part, LEFT_OUT);
              setPart("");
            }}
          >
            Leave it out
          </Button>
          <span className="w-60">
            <Choice
              label={`${called}, in place of ${nameOf(part)}`}
              placeholder="or something else instead"
              value={null}
              options={(pantry ?? []).map((food) => ({ id: food.id, name: food.name, also: food.also }))}
              onChoose={(food) => {
                set(part, food);
                setPart("");
              }}
            />
          </span>
        </>
      )}
    </div>
  );
}
