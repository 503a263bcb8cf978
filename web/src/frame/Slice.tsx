import type { Frame, FrameLayer, LayerEstimate, Ready } from "../api/types";
import { figure, range } from "../ui/figures";
import { CutFaceDrawing } from "./CutFaceDrawing";
import { point, usePointable } from "./pointing";

interface SliceProps {
  frame: Frame;
  estimate: Ready | null;
  computing: boolean;
  picked: string | null;
  pick: (layerId: string | null) => void;
}

/** The cut face from the current numbers, with each layer’s mass beside it; pointing here points everywhere. */
export function Slice({ frame, estimate, computing, picked, pick }: SliceProps) {
  const found = new Map(estimate?.layers.map((layer) => [layer.layer_id, layer]));
  const scale = estimate?.slice.size_assumed ? "to scale, size assumed" : "to scale";
  return (
    <aside
      className="no-print flex w-[292px] shrink-0 flex-col overflow-auto border-r border-line bg-linen px-5 py-4"
      aria-label="The slice"
    >
      <div className="mb-2 flex items-baseline justify-between">
        <h2 className="text-base">The slice</h2>
        <span className="text-sm text-ink-2">{computing ? "updating …" : estimate && scale}</span>
      </div>
      {estimate ? (
        <CutFaceDrawing face={estimate.slice} layers={frame.layers} picked={picked} onPick={pick} />
      ) : (
        <p className="rounded border border-dashed border-ink-2/40 px-3 py-8 text-center text-ink-2">
          {frame.layers.length ? "Drawn once a piece’s weight is known." : "Drawn once there are layers."}
        </p>
      )}
      <ul className="mt-4 space-y-1">
        {frame.layers.map((layer) => (
          <li key={layer.layer_id}>
            <LayerButton
              layer={layer}
              grams={found.get(layer.layer_id)?.grams}
              picked={picked === layer.layer_id}
              pick={pick}
            />
          </li>
        ))}
      </ul>
      {estimate && (
        <p className="mt-auto flex justify-between border-t border-line pt-3">
          <span className="text-ink-2">Original, probably</span>
          <span>
            <strong>{figure(estimate.piece_g.best, 1)}</strong> <span className="text-sm text-ink-2">g</span>
          </span>
        </p>
      )}
    </aside>
  );
}

interface LayerButtonProps {
  layer: FrameLayer;
  grams: LayerEstimate["grams"] | undefined;
  picked: boolean;
  pick: (layerId: string | null) => void;
}

function LayerButton({ layer, grams, picked, pick }: LayerButtonProps) {
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
      {grams && (
        <span className="shrink-0 text-right whitespace-nowrap">
          {figure(grams.best, 1)} <span className="text-sm text-ink-2">g</span>
          <span className="block text-sm text-ink-2">{range(grams.low, grams.high, 1)}</span>
        </span>
      )}
    </button>
  );
}
