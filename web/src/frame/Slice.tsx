import type { MatchContext } from "../app/match";
import { figure, range } from "../ui/figures";
import { CutFaceDrawing } from "./CutFaceDrawing";

type SliceProps = Pick<
  MatchContext,
  "study" | "estimate" | "estimateState" | "pointed" | "point" | "picked" | "pick"
>;

/** The cut face from the current numbers, with each layer's mass beside it; pointing here points everywhere. */
export function Slice({ study, estimate, estimateState, pointed, point, picked, pick }: SliceProps) {
  const looks = new Map(study.reading.layers.map((layer) => [layer.layer_id, layer]));
  const found = new Map(estimate?.layers.map((layer) => [layer.layer_id, layer]));
  const layers = study.study.layers ?? [];
  const inside = new Map(layers.flatMap((layer) => (layer.host ? [[layer.id, layer.host] as const] : [])));
  return (
    <aside
      className="no-print flex w-[292px] shrink-0 flex-col overflow-auto border-r border-line bg-linen px-5 py-4"
      aria-label="The slice"
    >
      <div className="mb-2 flex items-baseline justify-between">
        <h2 className="text-base">The slice</h2>
        <span className="text-sm text-ink-2">
          {estimateState.kind === "computing"
            ? "updating …"
            : estimate
              ? estimate.slice.size_assumed
                ? "to scale, size assumed"
                : "to scale"
              : ""}
        </span>
      </div>
      {estimate ? (
        <CutFaceDrawing
          face={estimate.slice}
          looks={looks}
          inside={inside}
          pointed={pointed}
          picked={picked}
          onPoint={point}
          onPick={pick}
        />
      ) : (
        <p className="rounded border border-dashed border-ink-2/40 px-3 py-8 text-center text-ink-2">
          {layers.length ? "Drawn once a piece’s weight is known." : "Drawn once there are layers."}
        </p>
      )}
      <ul className="mt-4 space-y-1">
        {[...layers].map((layer) => {
          const mass = found.get(layer.id)?.grams;
          const active = picked === layer.id || pointed === layer.id;
          return (
            <li key={layer.id}>
              <button
                type="button"
                aria-pressed={picked === layer.id}
                onClick={() => pick(picked === layer.id ? null : layer.id)}
                onPointerEnter={() => point(layer.id)}
                onPointerLeave={() => point(null)}
                onFocus={() => point(layer.id)}
                onBlur={() => point(null)}
                className={`flex w-full items-center gap-2 rounded border-2 px-2 py-1 text-left ${active ? "border-fern-600 bg-card" : "border-transparent"}`}
              >
                <span
                  className="size-3.5 shrink-0 rounded-sm border border-ink/20"
                  style={{ backgroundColor: looks.get(layer.id)?.tone }}
                />
                <span className="min-w-0 flex-1 leading-tight">{layer.name || "Unnamed layer"}</span>
                {mass && (
                  <span className="shrink-0 text-right whitespace-nowrap">
                    {figure(mass.best, 1)} <span className="text-sm text-ink-2">g</span>
                    <span className="block text-sm text-ink-2">{range(mass.low, mass.high, 1)}</span>
                  </span>
                )}
              </button>
            </li>
          );
        })}
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
