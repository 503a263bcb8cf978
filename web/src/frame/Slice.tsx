import type { Frame, FrameLayer, LayerEstimate, Ready, VersionView } from "../api/types";
import { figure, range } from "../ui/figures";
import { CutFaceDrawing } from "./CutFaceDrawing";
import { point, usePointable } from "./pointing";

interface SliceProps {
  frame: Frame;
  estimate: Ready | null;
  computing: boolean;
  picked: string | null;
  pick: (layerId: string | null) => void;
  /** The version the step is about, or that stands in where there is no estimate. */
  copy: VersionView | null;
}

/** The cut face from the current numbers, with each layer’s mass beside it; pointing here points everywhere. */
export function Slice({ frame, estimate, computing, picked, pick, copy }: SliceProps) {
  const found = new Map(estimate?.layers.map((layer) => [layer.layer_id, layer]));
  const scale = estimate?.slice.size_assumed ? "to scale, size assumed" : "to scale";
  return (
    <aside
      className="no-print flex w-[292px] shrink-0 flex-col overflow-auto border-r border-line bg-linen px-5 py-4 max-[1279px]:w-[240px] max-[1279px]:px-3 max-lg:w-full max-lg:flex-row max-lg:items-center max-lg:gap-x-4 max-lg:overflow-x-auto max-lg:overflow-y-hidden max-lg:border-r-0 max-lg:border-b max-lg:py-2 [&_svg]:h-auto [&_svg]:max-w-full max-lg:[&_figure]:shrink-0 max-lg:[&_svg]:h-24 max-lg:[&_svg]:w-auto"
      aria-label="The slice"
    >
      <div className="mb-2 flex items-baseline justify-between max-lg:hidden">
        <h2 className="text-base">The slice</h2>
        <span className="text-sm text-ink-2">{computing ? "updating …" : estimate && scale}</span>
      </div>
      <Faces frame={frame} estimate={estimate} copy={copy} picked={picked} pick={pick} />
      {!estimate && !copy?.slice && (
        <p className="rounded border border-dashed border-ink-2/40 px-3 py-8 text-center text-ink-2">
          {frame.layers.length ? "Drawn once a piece’s weight is known." : "Drawn once there are layers."}
        </p>
      )}
      <ul className="mt-4 space-y-1 max-lg:mt-0 max-lg:flex max-lg:flex-wrap max-lg:space-y-0 max-lg:gap-x-2">
        {allLayers(frame, copy).map((layer) => (
          <li key={layer.layer_id}>
            <LayerButton
              layer={layer}
              grams={found.get(layer.layer_id)?.grams}
              copyG={copy?.layers.find((one) => one.layer_id === layer.layer_id)?.finished_g}
              picked={picked === layer.layer_id}
              pick={pick}
            />
          </li>
        ))}
      </ul>
      {copy && (
        <p className="mt-auto flex justify-between border-t border-line pt-3 max-lg:hidden">
          <span className="text-ink-2">This version</span>
          <span>
            <strong>{figure(copy.piece_g, 1)}</strong> <span className="text-sm text-ink-2">g</span>
          </span>
        </p>
      )}
      {estimate && (
        <p
          className={
            copy
              ? "flex justify-between pt-1 max-lg:hidden"
              : "mt-auto flex justify-between border-t border-line pt-3 max-lg:hidden"
          }
        >
          <span className="text-ink-2">Original, probably</span>
          <span>
            <strong>{figure(estimate.piece_g.best, 1)}</strong> <span className="text-sm text-ink-2">g</span>
          </span>
        </p>
      )}
    </aside>
  );
}

/** The layers of the study, then those that only the version has. */
function allLayers(frame: Frame, copy: VersionView | null): FrameLayer[] {
  const known = new Set(frame.layers.map((layer) => layer.layer_id));
  const further = copy?.layers.filter((layer) => !known.has(layer.layer_id)) ?? [];
  return [...frame.layers, ...further.map((layer) => ({ ...layer, host: null }))];
}

/** Original and version as two halves of one bar; the one there is where the other is missing. */
function Faces({ frame, estimate, copy, picked, pick }: Omit<SliceProps, "computing">) {
  const drawing = { layers: allLayers(frame, copy), picked, onPick: pick };
  if (estimate && copy?.slice) {
    return (
      <>
        <div className="flex items-end justify-center gap-px max-lg:shrink-0 max-lg:justify-start">
          <CutFaceDrawing face={estimate.slice} half="left" {...drawing} />
          <CutFaceDrawing face={copy.slice} half="right" {...drawing} />
        </div>
        <p className="mt-1 flex justify-around text-sm text-ink-2 max-lg:hidden">
          <span>original</span>
          <span>this version</span>
        </p>
      </>
    );
  }
  if (estimate) return <CutFaceDrawing face={estimate.slice} {...drawing} />;
  if (!copy?.slice) return null;
  return (
    <>
      <CutFaceDrawing face={copy.slice} {...drawing} />
      <p className="text-center text-sm text-ink-2">from the recipe: there is no estimate</p>
    </>
  );
}

interface LayerButtonProps {
  layer: FrameLayer;
  grams: LayerEstimate["grams"] | undefined;
  copyG: number | undefined;
  picked: boolean;
  pick: (layerId: string | null) => void;
}

function LayerButton({ layer, grams, copyG, picked, pick }: LayerButtonProps) {
  const pointable = usePointable(layer.layer_id);
  return (
    <button
      type="button"
      aria-pressed={picked}
      onClick={() => pick(picked ? null : layer.layer_id)}
      {...pointable}
      onFocus={() => point(layer.layer_id)}
      onBlur={() => point(null)}
      className={`flex w-full items-center gap-2 rounded border-2 px-2 py-1 text-left data-pointed:border-fern-600 data-pointed:bg-card ${picked ? "border-fern-600 bg-card" : "border-transparent"}`}
    >
      <span
        className="size-3.5 shrink-0 rounded-sm border border-ink/20"
        style={{ backgroundColor: layer.tone }}
      />
      <span className="min-w-0 flex-1 leading-tight">{layer.name}</span>
      {copyG !== undefined && (
        <span className="shrink-0 text-right whitespace-nowrap">
          {figure(copyG, 1)} <span className="text-sm text-ink-2">g</span>
          {grams && <span className="block text-sm text-ink-2">of {range(grams.low, grams.high, 1)}</span>}
        </span>
      )}
      {grams && copyG === undefined && (
        <span className="shrink-0 text-right whitespace-nowrap">
          {figure(grams.best, 1)} <span className="text-sm text-ink-2">g</span>
          <span className="block text-sm text-ink-2">{range(grams.low, grams.high, 1)}</span>
        </span>
      )}
    </button>
  );
}
