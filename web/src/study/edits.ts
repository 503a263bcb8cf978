/** Edits of a study as pure functions: each takes what is typed and gives the changed study. */
import type { Layer, Meaning, PanelText, Reading, Spot, Study, Thickness, Whereabouts } from "../api/types";
import { freshId } from "../app/ids";

const PIECE = "piece";

type LabelField = "net_weight" | "pieces_per_pack" | "serving" | "servings" | "price";

const labelOf = (study: Study) =>
  study.label ?? {
    net_weight: "",
    pieces_per_pack: "",
    serving: "",
    servings: "",
    price: "",
    basis: "100 g" as const,
  };

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

export const withRow = (
  study: Study,
  row: string,
  typed: string,
  column: "rows" | "other_rows" = "rows",
): Study => {
  const all: Record<string, string> = { ...labelOf(study)[column], [row]: typed };
  const rows = Object.fromEntries(Object.entries(all).filter(([, text]) => text.trim() !== ""));
  return { ...study, label: { ...labelOf(study), [column]: rows } };
};

/** The rows of a pasted panel, over what stood there; fields it says nothing of stay. */
export const withPanel = (study: Study, panel: PanelText): Study => {
  const label = labelOf(study);
  return {
    ...study,
    sentence: study.sentence || panel.sentence,
    label: {
      ...label,
      net_weight: label.net_weight || panel.net_weight,
      basis: panel.basis,
      serving: panel.serving || label.serving,
      servings: panel.servings || label.servings,
      rows: { ...label.rows, ...panel.rows },
      other_rows: { ...label.other_rows, ...panel.other_rows },
    },
  };
};

export const withStatement = (study: Study, statement: string): Study => ({ ...study, statement });

export const withSentence = (study: Study, sentence: string): Study => ({ ...study, sentence });

/** The user's ingredient for a name; null goes back to what was read. */
export const withCorrection = (study: Study, item: string, ingredient: string | null): Study => ({
  ...study,
  corrections: without(study.corrections ?? {}, item, ingredient),
});

/** The user's reading of the bracket after a name; null goes back to what was proposed. */
export const withMeaning = (study: Study, item: string, meaning: Meaning | null): Study => ({
  ...study,
  meanings: without(study.meanings ?? {}, item, meaning),
});

/** The user's answer for a name in a layer; null goes back to what was proposed. */
export const withPlacement = (
  study: Study,
  item: string,
  layer: string,
  where: Whereabouts | null,
): Study => {
  const placed = without(study.placements?.[item] ?? {}, layer, where);
  const kept = Object.keys(placed).length > 0 ? placed : null;
  return { ...study, placements: without(study.placements ?? {}, item, kept) };
};

/** A mapping with one key set, or gone where there is nothing to set. */
function without<Value>(mapping: Record<string, Value>, key: string, value: Value | null) {
  const others = Object.fromEntries(Object.entries(mapping).filter(([name]) => name !== key));
  return value === null ? others : { ...others, [key]: value };
}

export const withLayers = (study: Study, layers: Layer[]): Study => ({ ...study, layers });

export const withLayer = (study: Study, id: string, change: Partial<Layer>): Study => ({
  ...study,
  layers: study.layers.map((layer) => (layer.id === id ? { ...layer, ...change } : layer)),
});

/** Without a layer; what hangs on it the core takes along. */
export const withoutLayer = (study: Study, id: string): Study => ({
  ...study,
  layers: study.layers.filter((layer) => layer.id !== id),
});

/** A layer one place up (-1) or down (1). */
export const withLayerMoved = (study: Study, id: string, step: -1 | 1): Study => {
  const layers = [...study.layers];
  const from = layers.findIndex((layer) => layer.id === id);
  const moved = layers[from];
  const other = layers[from + step];
  if (!moved || !other) return study;
  layers[from] = other;
  layers[from + step] = moved;
  return { ...study, layers };
};

/** Layers on the scale together, or none for whole pieces. */
const onScale = (reading: Reading) =>
  reading.subject === PIECE ? [] : [reading.subject, ...(reading.also ? [reading.also] : [])].sort();

/** Readings of what was on the scale, in their order. */
export const readingsOf = (study: Study, layers: string[]): Reading[] =>
  study.readings.filter((reading) => onScale(reading).join() === [...layers].sort().join());

/** One reading with another text; an emptied one goes, one without an id yet comes in. */
export const withReading = (study: Study, layers: string[], id: string | null, typed: string): Study => {
  const [subject = PIECE, also = null] = layers;
  const fresh = { id: freshId("reading"), subject, also, typed };
  return { ...study, readings: withTyped(study.readings, id, typed, fresh) };
};

export const thicknessesOf = (study: Study, layer: string, spot: Spot): Thickness[] =>
  study.thicknesses.filter((one) => one.layer === layer && one.spot === spot);

/** One thickness with another text, in the same way. */
export const withThickness = (
  study: Study,
  layer: string,
  spot: Spot,
  id: string | null,
  typed: string,
): Study => {
  const fresh = { id: freshId("thickness"), layer, spot, typed };
  return { ...study, thicknesses: withTyped(study.thicknesses, id, typed, fresh) };
};

function withTyped<Entry extends { id: string; typed: string }>(
  entries: readonly Entry[],
  id: string | null,
  typed: string,
  fresh: Entry,
): Entry[] {
  if (id === null) return [...entries, fresh];
  const changed = entries.map((one) => (one.id === id ? { ...one, typed } : one));
  return changed.filter((one) => one.id !== id || typed.trim());
}

/** A side of the piece as typed. */
export const withSide = (study: Study, side: "length" | "width" | "height", typed: string): Study => ({
  ...study,
  size: { ...(study.size ?? { length: "", width: "", height: "" }), [side]: typed },
});
