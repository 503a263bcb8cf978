import { useState } from "react";
import { useMatch } from "../app/match";
import type { Layer, ReadReading, Spot, Weighing } from "../api/types";
import { usePointable } from "../frame/pointing";
import { Cell, told } from "../ui/Cell";
import { figure } from "../ui/figures";
import { Select } from "../ui/Select";
import { readingsOf, thicknessesOf, withReading, withSide, withThickness } from "./edits";

/** Weighings: whole pieces, and whichever layers come off cleanly; several readings each; then what a ruler tells. */
export function WeighingsPart() {
  const { study } = useMatch();
  const [pair, setPair] = useState<[string, string] | null>(null);
  const layers = study.study.layers;
  const weighings = study.reading.weighings;
  const fresh = pair && !weighings.some((one) => isOf(one, pair)) ? [unweighed(pair)] : [];
  return (
    <div className="max-w-4xl">
      <p className="mb-3 text-ink-2">
        Grams or ounces, sums are fine: “42/3” for three pieces at once, “9 x 0.6” for nine nuts of 0.6 g; Tab
        goes on to the next reading. One layer weighed well is worth more than three guessed.
      </p>
      <ReadingsTable what="Weighed">
        {[...weighings, ...fresh].map((weighing) => (
          <WeighingLine key={weighing.subject} weighing={weighing} name={nameOf(weighing, layers)} />
        ))}
      </ReadingsTable>
      {layers.length > 1 && <TogetherFields onChosen={setPair} />}
      <SizeFields />
      <ThicknessFields />
    </div>
  );
}

const isOf = (weighing: Weighing, pair: [string, string]) =>
  weighing.layers.length === 2 && pair.every((id) => weighing.layers.includes(id));

const unweighed = (pair: [string, string]): Weighing => ({
  subject: pair.join("+"),
  layers: pair,
  readings: [],
  mean_g: null,
  mean_in_ounces: null,
  sd_g: null,
});

function nameOf(weighing: Weighing, layers: readonly Layer[]) {
  const names = layers.filter((layer) => weighing.layers.includes(layer.id)).map((layer) => layer.name);
  return names.join(" with ") || "Whole piece";
}

/** Two layers that do not come apart go on the scale together. */
function TogetherFields({ onChosen }: { onChosen: (pair: [string, string]) => void }) {
  const layers = useMatch().study.study.layers;
  const [first, setFirst] = useState("");
  const choices = (except: string) =>
    layers.filter((layer) => layer.id !== except).map((layer) => [layer.id, layer.name] as const);
  return (
    <p className="mt-2 flex flex-wrap items-center gap-2 text-sm text-ink-2">
      Two that will not come apart:
      <Select
        label="First of two weighed together"
        className="w-44"
        empty="a layer"
        value={first}
        options={choices("")}
        onChoose={setFirst}
      />
      with
      <Select
        label="Second of two weighed together"
        className="w-44"
        empty={first ? "another" : "choose the first"}
        value=""
        options={first ? choices(first) : []}
        onChoose={(second) => {
          if (!second) return;
          onChosen(first < second ? [first, second] : [second, first]); // as the core names them
          setFirst("");
        }}
      />
    </p>
  );
}

const SIDES = [
  ["length", "long"],
  ["width", "wide"],
  ["height", "high"],
] as const;

/** The piece's outside dimensions: the slice is drawn to them. */
function SizeFields() {
  const { study, change } = useMatch();
  return (
    <section className="mt-8" aria-labelledby="size">
      <h2 id="size" className="text-lg">
        Size of a piece
      </h2>
      <p className="mb-2 text-ink-2">
        Millimetres, cm or inches (“1 1/2 in”). With all three the slice is drawn in this size.
      </p>
      <table data-cells>
        <tbody>
          <tr className="align-top">
            {SIDES.map(([side, words]) => (
              <td key={side} className="pr-3">
                <Cell
                  showLabel
                  className="w-36"
                  align="right"
                  unit="mm"
                  label={words}
                  value={study.study.size?.[side] ?? ""}
                  {...told(study.reading.size[side])}
                  onCommit={(typed) => change((old) => withSide(old, side, typed))}
                />
              </td>
            ))}
          </tr>
        </tbody>
      </table>
    </section>
  );
}

const SPOTS: Record<Spot, string> = {
  anywhere: "",
  top: "on top",
  side: "at the side",
  bottom: "underneath",
};

/** Thicknesses on the cut face, in several spots; what lies inside another layer has none. */
function ThicknessFields() {
  const { study, change } = useMatch();
  const names = new Map(study.study.layers.map((layer) => [layer.id, layer.name]));
  const lines = study.reading.thicknesses;
  if (lines.length === 0) return null;
  return (
    <section className="mt-8" aria-labelledby="thickness">
      <h2 id="thickness" className="text-lg">
        Thickness on the cut face
      </h2>
      <p className="mb-2 text-ink-2">
        For what cannot be weighed apart: cut a cold piece, and measure in a few spots.
      </p>
      <ReadingsTable what="Measured">
        {lines.map(({ layer_id, spot, readings, mean_mm }) => (
          <ReadingsLine
            key={`${layer_id}:${spot}`}
            name={[names.get(layer_id), SPOTS[spot]].filter(Boolean).join(", ")}
            what="thickness"
            unit="mm"
            points={layer_id}
            typed={thicknessesOf(study.study, layer_id, spot)}
            read={readings}
            mean={mean_mm}
            onCommit={(id, typed) => change((old) => withThickness(old, layer_id, spot, id, typed))}
          />
        ))}
      </ReadingsTable>
    </section>
  );
}

function ReadingsTable({ what, children }: { what: string; children: React.ReactNode }) {
  return (
    <table className="w-full" data-cells>
      <thead>
        <tr className="border-b border-line text-left text-sm text-ink-2">
          <th className="w-56 py-1 font-normal">{what}</th>
          <th className="py-1 font-normal">Readings</th>
          <th className="w-24 py-1 text-right font-normal">Mean</th>
          <th className="w-24 py-1 text-right font-normal">Scatter</th>
        </tr>
      </thead>
      <tbody>{children}</tbody>
    </table>
  );
}

function WeighingLine({ weighing, name }: { weighing: Weighing; name: string }) {
  const { study, change } = useMatch();
  return (
    <ReadingsLine
      name={name}
      what="reading"
      unit="g"
      points={weighing.layers[0] ?? null}
      typed={readingsOf(study.study, weighing.layers)}
      read={weighing.readings}
      mean={weighing.mean_g}
      meanToo={weighing.mean_in_ounces}
      scatter={weighing.sd_g}
      onCommit={(id, typed) => change((old) => withReading(old, weighing.layers, id, typed))}
    />
  );
}

interface ReadingsLineProps {
  name: string;
  what: string;
  unit: string;
  /** The layer that lights up with it. */
  points: string | null;
  typed: readonly { id: string; typed: string }[];
  read: readonly ReadReading[];
  mean: number | null;
  meanToo?: string | null;
  scatter?: number | null;
  onCommit: (id: string | null, typed: string) => void;
}

/** Readings of one thing, with a field for the next. */
function ReadingsLine(props: ReadingsLineProps) {
  const { name, what, unit, typed, read, mean, meanToo, scatter = null, onCommit } = props;
  const decimals = unit === "g" ? 2 : 1;
  const pointable = usePointable(props.points);
  const readAs = read.flatMap((one, index) =>
    one.read_as ? [read.length > 1 ? `${index + 1}: ${one.read_as}` : one.read_as] : [],
  );
  return (
    <tr className="border-b border-line/60 align-top data-pointed:bg-fern-100/60" {...pointable}>
      <td className="py-2">{name}</td>
      <td className="py-1.5">
        <span className="flex flex-wrap gap-1.5">
          {[...typed, null].map((one, index) => (
            <Cell
              key={index}
              className="w-24"
              align="right"
              unit={unit}
              label={`${name}, ${what} ${index + 1}`}
              value={one?.typed ?? ""}
              grows={one === null}
              problem={read.find((other) => other.id === one?.id)?.problem}
              onCommit={(text) => onCommit(one?.id ?? null, text)}
            />
          ))}
        </span>
        {readAs.length > 0 && (
          <span className="mt-1 block text-sm text-ink-2">read as {readAs.join("; ")}</span>
        )}
      </td>
      <td className="py-2 text-right">
        {mean !== null && (
          <>
            {figure(mean, decimals)} <span className="text-sm text-ink-2">{unit}</span>
            {meanToo && <span className="block text-sm text-ink-2">{meanToo}</span>}
          </>
        )}
      </td>
      <td className="py-2 text-right text-ink-2">
        {scatter !== null && (
          <>
            ± {figure(scatter, decimals)} <span className="text-sm">{unit}</span>
          </>
        )}
      </td>
    </tr>
  );
}
