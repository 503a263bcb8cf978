import { Link } from "react-router";
import { useMatch } from "../app/match";
import type { Batch, BatchLayer, BatchOut, CookEnd, Typed } from "../api/types";
import { usePointable } from "../frame/pointing";
import { Cell, told } from "../ui/Cell";
import { decimalsOfStep, figure, range } from "../ui/figures";
import { Tick } from "./Tick";

interface BatchTableProps {
  scaled: Batch;
  /** What is mixed once for several lines. */
  premixes: readonly string[];
  /** Shown beside grams: oz, or nothing more. */
  unit: string;
  /** The scale’s step in grams. */
  step: number;
  cookEnds: Record<string, CookEnd>;
  /** Of coats: whether to temper, what a blend does. */
  coatWords: Record<string, readonly string[]>;
  losses: Record<string, Typed>;
  /** What stands in the fields, edits not yet answered included. */
  typedLosses: Record<string, string>;
  onLoss: (layerId: string, typed: string) => void;
  /** By layer: what is worked in until it holds, and what was left of it. */
  setOut: BatchOut["set_out"];
  leftOver: Record<string, Typed>;
  typedLeft: Record<string, string>;
  onLeft: (layerId: string, typed: string) => void;
}

/** What to weigh out, layer by layer, with what boils off and what stays on the tools. */
export function BatchTable(props: BatchTableProps) {
  const { scaled, unit, step, cookEnds, coatWords, losses, typedLosses, onLoss } = props;
  const { setOut, leftOver, typedLeft, onLeft } = props;
  return (
    <div className="space-y-5 print:space-y-2" data-cells>
      {props.premixes.length > 0 && (
        <section className="break-inside-avoid rounded-lg border border-line bg-card px-4 py-3 print:py-1">
          <h2 className="mb-1 text-lg">Mix first</h2>
          <ul className="space-y-1">
            {props.premixes.map((words) => (
              <li key={words}>
                <Tick />
                {words}
              </li>
            ))}
          </ul>
        </section>
      )}
      {scaled.layers.map((layer) => (
        <LayerCard
          key={layer.layer_id}
          layer={layer}
          unit={unit}
          step={step}
          cookEnd={cookEnds[layer.layer_id]}
          words={coatWords[layer.layer_id] ?? []}
          loss={losses[layer.layer_id]}
          typedLoss={typedLosses[layer.layer_id] ?? ""}
          onLoss={(typed) => onLoss(layer.layer_id, typed)}
          setOut={setOut[layer.layer_id]}
          leftOver={leftOver[layer.layer_id]}
          typedLeft={typedLeft[layer.layer_id] ?? ""}
          onLeft={(typed) => onLeft(layer.layer_id, typed)}
        />
      ))}
    </div>
  );
}

interface LayerCardProps {
  unit: string;
  step: number;
  layer: BatchLayer;
  cookEnd: CookEnd | undefined;
  words: readonly string[];
  loss: Typed | undefined;
  typedLoss: string;
  onLoss: (typed: string) => void;
  setOut: BatchOut["set_out"][string] | undefined;
  leftOver: Typed | undefined;
  typedLeft: string;
  onLeft: (typed: string) => void;
}

function LayerCard(props: LayerCardProps) {
  const { unit, step, layer, cookEnd, words, loss, typedLoss, onLoss, setOut } = props;
  const { frame } = useMatch();
  const pointable = usePointable(layer.layer_id);
  const span = unit === "oz" ? 3 : 2;
  const tone = frame.layers.find((one) => one.layer_id === layer.layer_id)?.tone;
  return (
    <section
      className="break-inside-avoid rounded-lg border border-line bg-card px-4 py-3 print:py-1 data-pointed:border-fern-600"
      {...pointable}
    >
      <div className="mb-1 flex items-baseline justify-between gap-4">
        <h2 className="flex items-center gap-2 text-lg">
          <span className="size-3.5 rounded-sm border border-ink/20" style={{ backgroundColor: tone }} />
          {layer.name}
        </h2>
        <p className="text-ink-2">
          {figure(layer.per_piece_g, 2)} <span className="text-sm">g a piece</span>
        </p>
      </div>
      {cookEnd && <CookEndLine end={cookEnd} />}
      {words.map((sentence) => (
        <p key={sentence} className="mb-1 text-sm text-ink-2">
          {sentence}
        </p>
      ))}
      <table className="w-full">
        <tbody>
          {layer.ingredients.map((one) => (
            <tr key={one.line_id} className="border-b border-line/60">
              <td className="py-1 print:py-0">
                <Tick />
                {one.name}
                {one.each && <span className="ml-2 text-sm text-ink-2">{one.each}</span>}
                {one.note && <span className="ml-2 text-sm text-ink-2">{one.note}</span>}
                {one.dilution && <span className="block text-sm text-ink-2">{one.dilution}</span>}
                {setOut?.ingredient_id === one.ingredient_id && (
                  <Until
                    words={setOut.words}
                    layer={layer.name}
                    field={props.leftOver}
                    typed={props.typedLeft}
                    onLeft={props.onLeft}
                  />
                )}
              </td>
              <td
                className={
                  one.measured
                    ? "w-48 py-1 text-right font-semibold print:py-0"
                    : "w-40 py-1 text-right text-sm print:py-0 whitespace-nowrap text-ink-2"
                }
              >
                {one.measured ||
                  (one.scooped && `${one.scooped.words}, ${range(one.scooped.low_g, one.scooped.high_g)} g`)}
              </td>
              {unit === "oz" && (
                <td className="w-20 py-1 text-right text-sm text-ink-2">
                  {!one.unread && `${figure(one.weigh_out_oz, 2)} oz`}
                </td>
              )}
              <td
                className={
                  one.measured
                    ? "w-24 py-1 text-right text-ink-2 print:py-0"
                    : "w-24 py-1 text-right text-base font-semibold print:py-0"
                }
              >
                {one.unread ? (
                  <span aria-label="not known">?</span>
                ) : (
                  figure(one.weigh_out_g, decimalsOfStep(one.below_scale ? step / 10 : step))
                )}{" "}
                <span className="text-sm font-normal text-ink-2">g</span>
              </td>
            </tr>
          ))}
        </tbody>
        <tfoot className="text-ink-2">
          <Sum span={span} words="in the bowl" grams={layer.added_g} />
          {layer.water_lost_g > 0 && (
            <Sum span={span} words="driven off as water" grams={-layer.water_lost_g} />
          )}
          {layer.spare_g > 0 && (
            <Sum span={span} words="left in the bowl after the last piece" grams={-layer.spare_g} />
          )}
          <tr>
            <td className="py-1 print:py-0" colSpan={span}>
              <span className="flex flex-wrap items-center gap-2">
                stays on tools
                <Cell
                  className="no-print w-24"
                  align="right"
                  unit="%"
                  label={`${layer.name}, stays on tools`}
                  value={typedLoss}
                  placeholder={figure(100 * layer.left_on_tools, 1)}
                  onCommit={onLoss}
                />
                {loss?.problem ? (
                  <span className="text-sm text-amber-ink">{loss.problem}</span>
                ) : (
                  !loss && <span className="no-print text-sm">usual for its family</span>
                )}
              </span>
            </td>
            <td className="text-right align-top">
              {figure(-layer.left_on_tools_g, 1)} <span className="text-sm">g</span>
            </td>
          </tr>
          {layer.trimmed_g > 0.05 && (
            <Sum span={span} words="trimmings and offcuts" grams={-layer.trimmed_g} />
          )}
          <tr className="text-ink">
            <td className="py-1 print:py-0" colSpan={span}>
              in the pieces
            </td>
            <td className="text-right font-semibold">
              {figure(layer.needed_g, 1)} <span className="text-sm font-normal text-ink-2">g</span>
            </td>
          </tr>
        </tfoot>
      </table>
    </section>
  );
}

interface UntilProps {
  words: string;
  layer: string;
  field: Typed | undefined;
  typed: string;
  onLeft: (typed: string) => void;
}

/** What is worked in until the layer holds: how much to set out, and what was left of it. */
function Until({ words, layer, field, typed, onLeft }: UntilProps) {
  return (
    <span className="mt-0.5 flex flex-wrap items-start gap-2 text-sm text-ink-2">
      <span className="pt-1">{words}</span>
      <Cell
        className="no-print w-32"
        label={`${layer}, left of what was set out`}
        value={typed}
        {...told(field)}
        placeholder="left over"
        onCommit={onLeft}
      />
    </span>
  );
}

/** Where the boil ends: as this thermometer shows it here, or by the weight in the pan. */
function CookEndLine({ end }: { end: CookEnd }) {
  if (end.by === "weight") {
    return (
      <p className="mb-1">
        Boil until the pan holds <strong>{figure(end.pan_g ?? 0, 0)} g</strong>
        <span className="text-ink-2">
          , {figure(100 * (end.left ?? 0), 0)} % of what went in; weigh the empty pan first.
          {end.apart && ` Not in the pan: ${end.apart.toLowerCase()}.`} End temperatures of sugar do not hold
          here.
        </span>
      </p>
    );
  }
  if (end.cue) {
    return (
      <p className="mb-1">
        Boil until <strong>{end.cue}</strong>
        <span className="text-ink-2">
          {" "}
          ({end.sea_level} at sea level). {end.cue_error}. {end.because}
        </span>
      </p>
    );
  }
  return (
    <p className="mb-1">
      Boil to <strong>{end.aim}</strong>{" "}
      <span className="text-ink-2">
        on your thermometer, {end.low} to {end.high}
        {end.corrected ? (
          `; ${end.sea_level} at sea level`
        ) : (
          <>
            , at sea level.{" "}
            <Link to="../kitchen" relative="path" className="no-print text-fern-700 underline">
              Correct for yours
            </Link>
          </>
        )}
        {end.because && ` ${end.because}`}
      </span>
    </p>
  );
}

function Sum({ span, words, grams }: { span: number; words: string; grams: number }) {
  return (
    <tr>
      <td className="py-0.5 print:py-0" colSpan={span}>
        {words}
      </td>
      <td className="py-0.5 text-right print:py-0">
        {figure(grams, 1)} <span className="text-sm">g</span>
      </td>
    </tr>
  );
}
