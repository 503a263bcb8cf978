import { describe, expect, it } from "vitest";
import type { Study } from "../api/types";
import * as edits from "./edits";

const study: Study = {
  name: "Harbour Light",
  maker: "",
  region: "EU",
  statement: "",
  label: { net_weight: "42", pieces_per_pack: "", serving: "", basis: "100 g", rows: { fat: "24" } },
  corrections: [{ item: "sugar", ingredient: "icing-sugar" }],
  layers: [
    { id: "coat", name: "Coat", family: "milk-coat", place: "coat", host: null },
    { id: "caramel", name: "Caramel", family: "soft-caramel", place: "stack", host: null },
    { id: "nuts", name: "Nuts", family: "whole-nuts", place: "inclusion", host: "caramel" },
  ],
  placements: [{ item: "salt", layer: "caramel", where: "yes" }],
  weighings: [
    { subject: "piece", readings: ["42.1", "42.3"] },
    { subject: "caramel", readings: ["8"] },
  ],
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
  });
});

describe("answers about ingredients", () => {
  it("a correction replaces the one before", () => {
    expect(edits.withCorrection(study, "sugar", "caster-sugar").corrections).toEqual([
      { item: "sugar", ingredient: "caster-sugar" },
    ]);
    expect(edits.withCorrection(study, "sugar", null).corrections).toEqual([]);
  });
  it("a placement replaces the one before and can be taken back", () => {
    expect(edits.withPlacement(study, "salt", "caramel", "no").placements).toEqual([
      { item: "salt", layer: "caramel", where: "no" },
    ]);
    expect(edits.withPlacement(study, "salt", "caramel", null).placements).toEqual([]);
    expect(edits.withPlacement(study, "salt", "coat", "maybe").placements).toHaveLength(2);
  });
  it("evidence is switched off once and on again", () => {
    expect(edits.withDoubt(study, "row:fat", true).doubted).toEqual(["row:fat"]);
    expect(edits.withDoubt(study, "row:fat", false).doubted).toEqual([]);
  });
});

describe("layers", () => {
  it("a removed layer takes its weighings and placements along and frees its inclusions", () => {
    const changed = edits.withoutLayer(study, "caramel");
    expect(changed.layers?.map((layer) => [layer.id, layer.host])).toEqual([
      ["coat", null],
      ["nuts", null],
    ]);
    expect(changed.weighings).toEqual([{ subject: "piece", readings: ["42.1", "42.3"] }]);
    expect(changed.placements).toEqual([]);
  });
  it("move within the build and stop at its ends", () => {
    expect(edits.withLayerMoved(study, "caramel", -1).layers?.map((layer) => layer.id)).toEqual([
      "caramel",
      "coat",
      "nuts",
    ]);
    expect(edits.withLayerMoved(study, "coat", -1)).toBe(study);
    expect(edits.withLayerMoved(study, "nobody", 1)).toBe(study);
  });
  it("a fresh id is nobody’s", () => {
    const one = {
      ...study,
      layers: [{ id: "layer-2", name: "", family: "x", place: "stack" as const, host: null }],
    };
    expect(edits.freshLayerId(one)).toBe("layer-3");
  });
});

describe("readings", () => {
  it("change in place, grow at the end, and close up where one is emptied", () => {
    expect(edits.withReading(study, "piece", 0, "42").weighings?.at(-1)?.readings).toEqual(["42", "42.3"]);
    expect(edits.withReading(study, "piece", 2, "42.4").weighings?.at(-1)?.readings).toEqual([
      "42.1",
      "42.3",
      "42.4",
    ]);
    expect(edits.withReading(study, "piece", 0, " ").weighings?.at(-1)?.readings).toEqual(["42.3"]);
  });
  it("the last one emptied takes the subject away", () => {
    expect(edits.withReading(study, "caramel", 0, "").weighings?.map((one) => one.subject)).toEqual([
      "piece",
    ]);
  });
  it("the first one of a subject makes it", () => {
    expect(edits.withReading(study, "coat", 0, "16").weighings?.at(-1)).toEqual({
      subject: "coat",
      readings: ["16"],
    });
  });
});

describe("size edits", () => {
  it("change one side and keep the others", () => {
    const wide = edits.withSide(study, "width", "1 in");
    expect(edits.withSide(wide, "height", "20").size).toEqual({ length: "", width: "1 in", height: "20" });
    expect(study.size).toBeUndefined();
  });
});
