/** Edits of a study as pure functions: each takes what is typed and gives the changed study. */
import type { Layer, Study, Whereabouts } from "../api/types";

type LabelField = "net_weight" | "pieces_per_pack" | "serving";

const labelOf = (study: Study) =>
  study.label ?? { net_weight: "", pieces_per_pack: "", serving: "", basis: "100 g" as const };

export const withName = (study: Study, field: "name" | "maker", typed: string): Study => ({
  ...study,
  [field]: typed,
});

export const withRegion = (study: Study, region: Study["region"]): Study => ({ ...study, region });

export const withLabelField = (study: Study, field: LabelField, typed: string): Study => ({
  ...study,
  label: { ...labelOf(study), [field]: typed },
});

export const withBasis = (study: Study, basis: "serving" | "100 g"): Study => ({
  ...study,
  label: { ...labelOf(study), basis },
});

export const withRow = (study: Study, row: string, typed: string): Study => {
  const all = { ...labelOf(study).rows, [row]: typed };
  const rows = Object.fromEntries(Object.entries(all).filter(([, text]) => text.trim() !== ""));
  return { ...study, label: { ...labelOf(study), rows } };
};

export const withStatement = (study: Study, statement: string): Study => ({ ...study, statement });

/** The user's ingredient for a name; null goes back to what was read. */
export const withCorrection = (study: Study, item: string, ingredient: string | null): Study => {
  const others = (study.corrections ?? []).filter((entry) => entry.item !== item);
  return { ...study, corrections: ingredient === null ? others : [...others, { item, ingredient }] };
};

/** The user's answer for a name in a layer; null goes back to what was proposed. */
export const withPlacement = (
  study: Study,
  item: string,
  layer: string,
  where: Whereabouts | null,
): Study => {
  const others = (study.placements ?? []).filter((entry) => entry.item !== item || entry.layer !== layer);
  return { ...study, placements: where === null ? others : [...others, { item, layer, where }] };
};

export const withLayers = (study: Study, layers: Layer[]): Study => ({ ...study, layers });

export const withLayer = (study: Study, id: string, change: Partial<Layer>): Study => ({
  ...study,
  layers: (study.layers ?? []).map((layer) => (layer.id === id ? { ...layer, ...change } : layer)),
});

/** Without a layer, its weighings and placements; an inclusion that lay in it lies in none. */
export const withoutLayer = (study: Study, id: string): Study => ({
  ...study,
  layers: (study.layers ?? [])
    .filter((layer) => layer.id !== id)
    .map((layer) => (layer.host === id ? { ...layer, host: null } : layer)),
  weighings: (study.weighings ?? []).filter((weighing) => weighing.subject !== id),
  placements: (study.placements ?? []).filter((placement) => placement.layer !== id),
});

/** A layer one place up (-1) or down (1). */
export const withLayerMoved = (study: Study, id: string, step: -1 | 1): Study => {
  const layers = [...(study.layers ?? [])];
  const from = layers.findIndex((layer) => layer.id === id);
  const moved = layers[from];
  const other = layers[from + step];
  if (!moved || !other) return study;
  layers[from] = other;
  layers[from + step] = moved;
  return { ...study, layers };
};

/** An id that no layer has. */
export const freshLayerId = (study: Study): string => {
  const taken = new Set((study.layers ?? []).map((layer) => layer.id));
  let number = taken.size + 1;
  while (taken.has(`layer-${number}`)) number += 1;
  return `layer-${number}`;
};

/** One reading of a subject; an emptied one goes, the others keep their order. */
export const withReading = (study: Study, subject: string, index: number, typed: string): Study => {
  const readings = [...((study.weighings ?? []).find((one) => one.subject === subject)?.readings ?? [])];
  if (index < readings.length) readings[index] = typed;
  else readings.push(typed);
  const kept = readings.filter((text) => text.trim());
  const others = (study.weighings ?? []).filter((one) => one.subject !== subject);
  return { ...study, weighings: kept.length ? [...others, { subject, readings: kept }] : others };
};

/** A piece of evidence switched on or off. */
export const withDoubt = (study: Study, evidenceId: string, doubted: boolean): Study => {
  const others = (study.doubted ?? []).filter((id) => id !== evidenceId);
  return { ...study, doubted: doubted ? [...others, evidenceId] : others };
};

/** A side of the piece as typed. */
export const withSide = (study: Study, side: "length" | "width" | "height", typed: string): Study => ({
  ...study,
  size: { ...(study.size ?? { length: "", width: "", height: "" }), [side]: typed },
});
