import { Link } from "react-router";
import type { BatchOut, BatchPlan, PlanBy } from "../api/types";
import { Cell, told } from "../ui/Cell";
import { Notice } from "../ui/Parts";
import { Select } from "../ui/Select";
import { BallDrawing } from "./BallDrawing";
import { CavityDrawing } from "./CavityDrawing";
import { CutDrawing } from "./CutDrawing";
import { SheetDrawing } from "./SheetDrawing";

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

/** Fields of a plan that are typed. */
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

/** What each way asks for: the kitchen’s gear, a layer or an ingredient, and fields. */
const ASKS: Record<PlanBy, readonly ("gear" | "layer" | "ingredient" | "keeps" | CellField)[]> = {
  pieces: ["pieces", "breaks"],
  pan: ["gear", "pieces", "gear_count", "cut_length", "cut_width", "trim", "keeps"],
  mould: ["gear", "pieces", "gear_count", "shell", "cap"],
  scoop: ["gear", "layer", "pieces"],
  cutter: ["gear", "layer", "rolled", "pieces"],
  amount: ["layer", "amount"],
  whole: ["ingredient", "amount"],
  house: [],
};
const CELLS: Record<CellField, readonly [title: string, placeholder: string, width: string]> = {
  pieces: ["Pieces wanted", "24", "w-28"],
  gear_count: ["How many", "as needed", "w-24"],
  cut_length: ["Cut, long", "60 mm", "w-24"],
  cut_width: ["Cut, wide", "25 mm", "w-24"],
  trim: ["Off each side", "0 mm", "w-24"],
  breaks: ["Breaks or is tasted", "0 %", "w-32"],
  room: ["Room today", "20 °C", "w-24"],
  humidity: ["Humidity", "50 %", "w-24"],
  rolled: ["Rolled, thick", "as the version", "w-28"],
  amount: ["How much of it", "500 g, 1 cup", "w-36"],
  shell: ["Shell, thick", "1.5 mm", "w-24"],
  cap: ["Cap, thick", "as the shell", "w-28"],
  dip_depth: ["Deep at the end", "piece + 5 mm", "w-28"],
};

interface HowMuchProps {
  batch: BatchOut;
  plan: BatchPlan;
  saving: boolean;
  change: (edit: (old: BatchPlan) => BatchPlan) => void;
}

/** How much is made, and in what: pieces, a pan, a mould, a scoop, a bowl, whole units, or what the house gives. */
export function HowMuch({ batch, plan, saving, change }: HowMuchProps) {
  const set = (part: Partial<BatchPlan>) => change((old) => ({ ...old, ...part }));
  const { portions, dip } = batch;
  const said = [...(portions?.words ?? []), dip].filter(Boolean);
  const drawing = portions?.cut ? (
    <CutDrawing cut={portions.cut} />
  ) : portions?.cavity ? (
    <CavityDrawing cavity={portions.cavity} />
  ) : portions?.sheet ? (
    <SheetDrawing sheet={portions.sheet} />
  ) : portions?.ball ? (
    <BallDrawing ball={portions.ball} />
  ) : null;
  return (
    <>
      <div className="mb-3 hidden gap-6 print:flex">
        <div className="flex-1">
          {said.map((sentence) => (
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
                value={plan.by}
                options={WAYS}
                className="w-56"
                onChoose={(by) => set({ by })}
              />
              <Fields batch={batch} plan={plan} set={set} />
            </div>
            <div className="mt-3 max-w-2xl space-y-1 text-sm text-ink-2">
              {batch.waits && <p className="text-ink">{batch.waits}</p>}
              {batch.problem && <Notice>{batch.problem}</Notice>}
              {said.map((sentence) => (
                <p key={sentence}>{sentence}</p>
              ))}
              {batch.weighed && <p>{batch.weighed}</p>}
              {ASKS[plan.by].includes("gear") && (
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
  batch: BatchOut;
  plan: BatchPlan;
  set: (part: Partial<BatchPlan>) => void;
}

function Fields({ batch, plan, set }: FieldsProps) {
  const usual: Partial<Record<CellField, string | undefined>> = {
    cut_length: batch.usual_cut[0],
    cut_width: batch.usual_cut[1],
  };
  const cell = (field: CellField) => {
    const [title, placeholder, width] = CELLS[field];
    return (
      <Cell
        key={field}
        showLabel
        className={width}
        label={title}
        value={plan[field]}
        {...told(batch.cells[field])}
        placeholder={usual[field] ?? placeholder}
        onCommit={(typed) => set({ [field]: typed })}
      />
    );
  };
  return (
    <>
      {ASKS[plan.by].map((asked) => {
        switch (asked) {
          case "gear":
            return (
              <Named
                key={asked}
                label="Made in"
                found={batch.made_in}
                chosen={plan.gear}
                onChoose={(gear) => set({ gear })}
              />
            );
          case "layer":
            return (
              <Named
                key={asked}
                label="Layer"
                found={batch.piece_names}
                chosen={plan.portioned}
                onChoose={(portioned) => set({ portioned })}
              />
            );
          case "ingredient":
            return (
              <Named
                key={asked}
                label="Ingredient"
                found={batch.whole_names}
                chosen={plan.whole}
                onChoose={(whole) => set({ whole })}
              />
            );
          case "keeps":
            return (
              <Select
                key={asked}
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
            );
          default:
            return cell(asked);
        }
      })}
      {batch.bowls.length > 0 && (
        <Named
          label="Dipped in"
          none="no bowl"
          found={batch.bowls}
          chosen={plan.dip_bowl}
          onChoose={(dip_bowl) => set({ dip_bowl })}
        />
      )}
      {batch.bowls.length > 0 && plan.dip_bowl && cell("dip_depth")}
      {cell("room")}
      {cell("humidity")}
    </>
  );
}

interface NamedProps {
  label: string;
  found: readonly { id: string; name: string }[];
  chosen: string;
  none?: string;
  onChoose: (id: string) => void;
}

/** One of those there are; nothing is chosen where it is not among them any more. */
function Named({ label, found, chosen, none = "Choose …", onChoose }: NamedProps) {
  return (
    <Select
      showLabel
      label={label}
      value={found.some((one) => one.id === chosen) ? chosen : ""}
      empty={none}
      className="w-40"
      options={found.map(({ id, name }) => [id, name] as const)}
      onChoose={onChoose}
    />
  );
}
