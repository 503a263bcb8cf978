/** Edits of a version as pure functions: each takes what is typed and gives the changed version. */
import type {
  LineView,
  Shaping,
  VersionLayer,
  VersionLine,
  VersionRecord,
  VersionTarget,
} from "../api/types";
import { freshId } from "../app/ids";

/** How solving treats a line. */
/** How solving treats a line; the core reads it. */
export type Hold = LineView["hold"];

const inLayer = (
  version: VersionRecord,
  layerId: string,
  change: (layer: VersionLayer) => VersionLayer,
): VersionRecord => ({
  ...version,
  layers: version.layers.map((layer) => (layer.id === layerId ? change(layer) : layer)),
});

const inLine = (
  version: VersionRecord,
  layerId: string,
  lineId: string,
  change: (line: VersionLine) => VersionLine,
): VersionRecord =>
  inLayer(version, layerId, (layer) => ({
    ...layer,
    ingredients: layer.ingredients.map((line) => (line.id === lineId ? change(line) : line)),
  }));

export const withName = (version: VersionRecord, name: string): VersionRecord => ({ ...version, name });

/** What is typed by hand the core fixes: solving leaves it alone until it is set free. */
export const withAmount = (version: VersionRecord, layerId: string, lineId: string, amount: string) =>
  inLine(version, layerId, lineId, (line) => ({ ...line, amount }));

/** A line held in another way; it begins with the amount it has. */
export const withHold = (version: VersionRecord, layerId: string, lineId: string, hold: Hold) =>
  inLine(version, layerId, lineId, (line) => ({
    ...line,
    locked: hold === "fixed" || hold === "none",
    amount: hold === "none" ? "0 g" : line.amount,
    least: hold === "least" ? line.least || line.amount : "",
    part: hold === "ratio" ? line.part || "1" : "",
  }));

export const withLineField = (
  version: VersionRecord,
  layerId: string,
  lineId: string,
  field: "least" | "part",
  typed: string,
) => inLine(version, layerId, lineId, (line) => ({ ...line, [field]: typed }));

export const withoutLine = (version: VersionRecord, layerId: string, lineId: string) =>
  inLayer(version, layerId, (layer) => ({
    ...layer,
    ingredients: layer.ingredients.filter((line) => line.id !== lineId),
  }));

export const withNewLine = (version: VersionRecord, layerId: string, food: { id: string; name: string }) =>
  inLayer(version, layerId, (layer) => ({
    ...layer,
    ingredients: [
      ...layer.ingredients,
      {
        id: freshId("line"),
        ingredient: food.id,
        name: food.name,
        role: "",
        amount: "",
        locked: false,
        least: "",
        part: "",
      },
    ],
  }));

export const withLayerField = (version: VersionRecord, layerId: string, field: "water_lost", typed: string) =>
  inLayer(version, layerId, (layer) => ({ ...layer, [field]: typed }));

export const withShaping = (version: VersionRecord, layerId: string, shaping: Shaping) =>
  inLayer(version, layerId, (layer) => ({ ...layer, shaping }));

export const withLayerName = (version: VersionRecord, layerId: string, name: string) =>
  inLayer(version, layerId, (layer) => ({ ...layer, name }));

/** A layer goes; with it, by the core, what was wanted of it. */
export const withoutLayer = (version: VersionRecord, layerId: string): VersionRecord => ({
  ...version,
  layers: version.layers.filter((layer) => layer.id !== layerId),
});

/** A layer moves one place towards the first or the last. */
export function withLayerMoved(version: VersionRecord, layerId: string, by: -1 | 1): VersionRecord {
  const layers = [...version.layers];
  const at = layers.findIndex((layer) => layer.id === layerId);
  const moved = layers[at];
  const other = layers[at + by];
  if (!moved || !other) return version;
  layers[at] = other;
  layers[at + by] = moved;
  return { ...version, layers };
}

export const withoutNote = (version: VersionRecord, noteId: string): VersionRecord => ({
  ...version,
  notes: version.notes.filter((note) => note.id !== noteId),
});

/** A further target: of a layer, or of the whole piece where that is null. */
export const withNewTarget = (
  version: VersionRecord,
  property: VersionTarget["property"],
  layerId: string | null,
): VersionRecord => ({
  ...version,
  targets: [
    ...version.targets,
    { id: freshId("target"), property, layer: layerId, wanted: "", tolerance: "" },
  ],
});

export const withTarget = (
  version: VersionRecord,
  targetId: string,
  field: "wanted" | "tolerance",
  typed: string,
): VersionRecord => ({
  ...version,
  targets: version.targets.map((target) => (target.id === targetId ? { ...target, [field]: typed } : target)),
});

export const withoutTarget = (version: VersionRecord, targetId: string): VersionRecord => ({
  ...version,
  targets: version.targets.filter((target) => target.id !== targetId),
});

const COMPUTED = /^(\d+)(?:\.(\d{3,}))?\s*g$/;

/** A computed amount as a cell shows it: what was typed stays as typed, figures of the solver to three decimals at most. */
export function shownAmount(typed: string): string {
  const found = COMPUTED.exec(typed.trim());
  if (!found?.[2]) return typed;
  const value = Number(`${found[1]}.${found[2]}`);
  const decimals = value >= 10 ? 2 : value >= 0.1 ? 3 : 4;
  return `${value.toFixed(decimals)} g`;
}
