import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { BatchOut, BatchPlan, GearKind, PlanBy } from "../api/types";
import { kitchenQuery } from "../kitchen/kitchenApi";
import { Cell, told } from "../ui/Cell";
import { Notice } from "../ui/Parts";
import { Select } from "../ui/Select";
import { CavityDrawing } from "./CavityDrawing";
import { CutDrawing } from "./CutDrawing";

const WAYS: readonly (readonly [PlanBy, string])[] = [
  ["pieces", "a number of pieces"],
  ["pan", "a pan or frame, cut"],
  ["mould", "a mould or lined cups"],
  ["scoop", "a scoop"],
  ["cutter", "a sheet rolled out and cut"],
  ["amount", "so much of one layer"],
  ["whole", "whole units of an ingredient"],
  ["house", "what is in the house"],
];
const GEAR: Partial<Record<PlanBy, readonly GearKind[]>> = {
  pan: ["pan"],
  mould: ["mould", "cup"],
  scoop: ["scoop"],
  cutter: ["cutter"],
};

interface HowMuchProps {
  batch: BatchOut;
  plan: BatchPlan;
  saving: boolean;
  change: (edit: (old: BatchPlan) => BatchPlan) => void;
}

/** How much is made, and in what: pieces, a pan, a mould, a scoop, a bowl, whole units, or what the house gives. */
export function HowMuch({ batch, plan, saving, change }: HowMuchProps) {
  const by = plan.by;
  const set = (part: Partial<BatchPlan>) => change((old) => ({ ...old, ...part }));
  const drawing = batch.portions?.cut ? (
    <CutDrawing cut={batch.portions.cut} />
  ) : batch.portions?.cavity ? (
    <CavityDrawing cavity={batch.portions.cavity} />
  ) : null;
  return (
    <>
      <div className="mb-3 hidden gap-6 print:flex">
        <div className="flex-1">
          {[...(batch.portions?.words ?? []), batch.dip].filter(Boolean).map((sentence) => (
            <p key={sentence}>{sentence}</p>
          ))}
        </div>
        {drawing}
      </div>
      <section
        aria-label="How much"
        className="no-print mb-5 rounded-lg border border-line bg-card px-4 py-3"
      >
        <div className="flex gap-6">
          <div className="min-w-0 flex-1">
            <div className="flex flex-wrap items-start gap-x-3 gap-y-2" data-cells>
              <Select
                showLabel
                label="How much goes by"
                value={by}
                options={WAYS}
                className="w-60"
                onChoose={(chosen) => set({ by: chosen })}
              />
              <Fields by={by} batch={batch} plan={plan} set={set} />
            </div>
            <div className="mt-3 max-w-2xl space-y-1 text-sm text-ink-2">
              {batch.waits && <p className="text-ink">{batch.waits}</p>}
              {batch.problem && <Notice>{batch.problem}</Notice>}
              {batch.portions?.words.map((sentence) => (
                <p key={sentence}>{sentence}</p>
              ))}
              {batch.dip && <p>{batch.dip}</p>}
              {batch.weighed && <p>{batch.weighed}</p>}
              {GEAR[by] && (
                <p>
                  <Link to="../kitchen" relative="path" className="text-fern-700 underline">
                    Gear is kept in the kitchen
                  </Link>
                </p>
              )}
              {saving && <p>saving …</p>}
            </div>
          </div>
          {drawing}
        </div>
      </section>
    </>
  );
}

interface FieldsProps {
  by: PlanBy;
  batch: BatchOut;
  plan: BatchPlan;
  set: (part: Partial<BatchPlan>) => void;
}

function Fields({ by, batch, plan, set }: FieldsProps) {
  const cell = (field: CellField, label: string, placeholder = "", width = "w-28") => (
    <Cell
      key={field}
      showLabel
      className={width}
      label={label}
      value={plan[field]}
      {...told(batch.cells[field])}
      placeholder={placeholder}
      onCommit={(typed) => set({ [field]: typed })}
    />
  );
  const layers = batch.piece_names.map(({ id, name }) => [id, name] as const);
  const wanted =
    by === "pieces" || by === "scoop" || by === "cutter" || by === "mould" || by === "pan"
      ? cell("pieces", "Pieces wanted", "24", "w-32")
      : null;
  return (
    <>
      {GEAR[by] && (
        <GearChoice kinds={GEAR[by]} label="Made in" chosen={plan.gear} onChoose={(gear) => set({ gear })} />
      )}
      {(by === "pan" || by === "mould") && cell("gear_count", "How many", "as needed", "w-24")}
      {by === "pan" && (
        <>
          {cell("cut_length", "Cut, long", batch.piece_size[0] ?? "60 mm", "w-24")}
          {cell("cut_width", "Cut, wide", batch.piece_size[1] ?? "25 mm", "w-24")}
          {cell("trim", "Off each side", "0 mm", "w-24")}
          <Select
            showLabel
            label="What stays"
            value={plan.keeps}
            className="w-36"
            options={[
              ["thickness", "the thickness"],
              ["amounts", "the amounts"],
            ]}
            onChoose={(keeps) => set({ keeps })}
          />
        </>
      )}
      {by === "mould" && (
        <>
          {cell("shell", "Shell, thick", "1.5 mm", "w-24")}
          {cell("cap", "Cap, thick", "as the shell", "w-28")}
        </>
      )}
      {by === "cutter" && cell("rolled", "Rolled, thick", "as the version", "w-28")}
      {(by === "scoop" || by === "amount" || by === "cutter") && (
        <Select
          showLabel
          label="Layer"
          value={plan.portioned}
          empty="Choose …"
          className="w-44"
          options={layers}
          onChoose={(portioned) => set({ portioned })}
        />
      )}
      {by === "whole" && (
        <Select
          showLabel
          label="Ingredient"
          value={plan.whole}
          empty="Choose …"
          className="w-56"
          options={batch.whole_names.map(({ id, name }) => [id, name] as const)}
          onChoose={(whole) => set({ whole })}
        />
      )}
      {by === "amount" && cell("amount", "How much of it", "500 g")}
      {by === "whole" && cell("amount", "How much of it", "1 egg white, 1 cup", "w-40")}
      {wanted}
      {by === "pieces" && cell("breaks", "Breaks or is tasted", "0 %", "w-32")}
      {by !== "mould" && batch.piece_names.some((one) => one.coat) && (
        <>
          <GearChoice
            kinds={["bowl"]}
            label="Dipped in"
            none="no bowl"
            chosen={plan.dip_bowl}
            onChoose={(dip_bowl) => set({ dip_bowl })}
          />
          {plan.dip_bowl && cell("dip_depth", "Deep at the end", "piece + 5 mm", "w-28")}
        </>
      )}
      {cell("room", "Room today", "20 °C", "w-24")}
      {cell("humidity", "Humidity", "50 %", "w-24")}
    </>
  );
}

type CellField =
  | "pieces"
  | "gear_count"
  | "cut_length"
  | "cut_width"
  | "trim"
  | "breaks"
  | "room"
  | "humidity"
  | "rolled"
  | "amount"
  | "shell"
  | "cap"
  | "dip_depth";

interface GearChoiceProps {
  kinds: readonly GearKind[];
  label: string;
  chosen: string;
  none?: string;
  onChoose: (id: string) => void;
}

/** One of the kitchen’s own; where there is none, the way to add it. */
function GearChoice({ kinds, label, chosen, none, onChoose }: GearChoiceProps) {
  const { data } = useQuery(kitchenQuery);
  const own = (data?.gear ?? []).filter(({ gear }) => kinds.includes(gear.kind));
  if (own.length === 0 && none) return null;
  return (
    <Select
      showLabel
      label={label}
      value={own.some(({ gear }) => gear.id === chosen) ? chosen : ""}
      empty={none ?? "Choose …"}
      className="w-40"
      options={own.map(({ gear }) => [gear.id, gear.name] as const)}
      onChoose={onChoose}
    />
  );
}
