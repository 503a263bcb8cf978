import { describe, expect, it } from "vitest";
import type { Study } from "../api/types";
import * as edits from "./edits";

const study: Study = {
  name: "Harbour Light",
  maker: "",
  region: "EU",
  sentence: "",
  statement: "",
  label: {
    net_weight: "42",
    pieces_per_pack: "",
    serving: "",
    servings: "",
    price: "",
    basis: "100 g",
    rows: { fat: "24" },
  },
  corrections: { sugar: "icing-sugar" },
  layers: [
    { id: "coat", name: "Coat", family: "milk-coat", place: "coat", host: null },
    { id: "caramel", name: "Caramel", family: "soft-caramel", place: "stack", host: null },
    { id: "nuts", name: "Nuts", family: "whole-nuts", place: "inclusion", host: "caramel" },
  ],
  placements: { salt: { caramel: "yes" } },
  readings: [
    { id: "a", subject: "piece", typed: "42.1" },
    { id: "b", subject: "caramel", typed: "8" },
    { id: "c", subject: "piece", typed: "42.3" },
  ],
  thicknesses: [],
  doubted: ["row:fat"],
};

describe("label edits", () => {
  it("change one field and leave the rest", () => {
    const changed = edits.withLabelField(study, "net_weight", "1.5 oz");
    expect(changed.label?.net_weight).toBe("1.5 oz");
    expect(changed.label?.rows).toEqual({ fat: "24" });
    expect(study.label?.net_weight).toBe("42");
  });
  it("add a row, and take away an emptied one", () => {
    expect(edits.withRow(study, "sugars", "52").label?.rows).toEqual({ fat: "24", sugars: "52" });
    expect(edits.withRow(study, "fat", "  ").label?.rows).toEqual({});
  });
  it("keep what is no figure", () => {
    expect(edits.withRow(study, "fat", "lots").label?.rows?.fat).toBe("lots");
  });
  it("change basis, region, name and statement", () => {
    expect(edits.withBasis(study, "serving").label?.basis).toBe("serving");
    expect(edits.withRegion(study, "US").region).toBe("US");
    expect(edits.withName(study, "maker", "Ferrywright").maker).toBe("Ferrywright");
    expect(edits.withStatement(study, "Sugar").statement).toBe("Sugar");
    expect(edits.withSentence(study, "Nougat in chocolate").sentence).toBe("Nougat in chocolate");
  });
});

describe("answers about ingredients", () => {
  it("a correction replaces the one before, and can be taken back", () => {
    expect(edits.withCorrection(study, "sugar", "caster-sugar").corrections).toEqual({
      sugar: "caster-sugar",
    });
    expect(edits.withCorrection(study, "sugar", null).corrections).toEqual({});
  });
  it("a placement replaces the one before and can be taken back", () => {
    expect(edits.withPlacement(study, "salt", "caramel", "no").placements).toEqual({
      salt: { caramel: "no" },
    });
    expect(edits.withPlacement(study, "salt", "caramel", null).placements).toEqual({});
    expect(edits.withPlacement(study, "salt", "coat", "maybe").placements).toEqual({
      salt: { caramel: "yes", coat: "maybe" },
    });
  });
});

describe("layers", () => {
  it("a removed layer is left out; what hangs on it is the core’s to take along", () => {
    const changed = edits.withoutLayer(study, "caramel");
    expect(changed.layers.map((layer) => layer.id)).toEqual(["coat", "nuts"]);
    expect(changed.readings).toBe(study.readings);
  });
  it("move within the build and stop at its ends", () => {
    expect(edits.withLayerMoved(study, "caramel", -1).layers.map((layer) => layer.id)).toEqual([
      "caramel",
      "coat",
      "nuts",
    ]);
    expect(edits.withLayerMoved(study, "coat", -1)).toBe(study);
    expect(edits.withLayerMoved(study, "nobody", 1)).toBe(study);
  });
});

describe("readings", () => {
  const typed = (changed: Study, ...layers: string[]) =>
    edits.readingsOf(changed, layers).map((reading) => reading.typed);
  it("change in place, and close up where one is emptied", () => {
    expect(typed(edits.withReading(study, [], "a", "42"))).toEqual(["42", "42.3"]);
    expect(typed(edits.withReading(study, [], "a", " "))).toEqual(["42.3"]);
  });
  it("a further one comes in with an id that no other window makes", () => {
    const [one, other] = [1, 2].map(() => edits.withReading(study, [], null, "42.4"));
    expect(one && typed(one)).toEqual(["42.1", "42.3", "42.4"]);
    expect(one?.readings.at(-1)?.id).not.toBe(other?.readings.at(-1)?.id);
    expect(one?.readings.at(-1)?.id).toMatch(/^[A-Za-z0-9][A-Za-z0-9_-]*$/);
  });
});

describe("two layers weighed together", () => {
  it("stand apart from either, whichever was named first", () => {
    const both = edits.withReading(study, ["coat", "caramel"], null, "24.5");
    const typed = (...layers: string[]) => edits.readingsOf(both, layers).map((one) => one.typed);
    expect(typed("caramel", "coat")).toEqual(["24.5"]);
    expect(typed("caramel")).toEqual(["8"]);
    expect(typed("coat")).toEqual([]);
  });
});

describe("thicknesses", () => {
  it("belong to a layer and a spot; an emptied one goes", () => {
    const top = edits.withThickness(study, "coat", "top", null, "1.5 mm");
    const [first] = edits.thicknessesOf(top, "coat", "top");
    expect(first?.typed).toBe("1.5 mm");
    expect(edits.thicknessesOf(top, "coat", "side")).toEqual([]);
    expect(edits.withThickness(top, "coat", "top", first?.id ?? null, "").thicknesses).toEqual([]);
  });
});

describe("size edits", () => {
  it("change one side and keep the others", () => {
    const wide = edits.withSide(study, "width", "1 in");
    expect(edits.withSide(wide, "height", "20").size).toEqual({ length: "", width: "1 in", height: "20" });
    expect(study.size).toBeUndefined();
  });
});
