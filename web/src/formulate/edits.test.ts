// @vitest-environment jsdom
import { expect, it } from "vitest";
import type { VersionRecord } from "../api/types";
import {
  shownAmount,
  withAmount,
  withHold,
  withLayerMoved,
  withNewTarget,
  withoutLayer,
  withoutTarget,
  withTarget,
} from "./edits";

const line = {
  id: "l1",
  ingredient: "honey",
  name: "Honey",
  role: "",
  amount: "2 tsp",
  locked: false,
  least: "",
  part: "",
};
const layer = (id: string) => ({
  id,
  name: id,
  family: "soft-caramel",
  water_lost: "",
  shaping: null,
  ingredients: [line],
});
const version = {
  id: "v",
  name: "V",
  parent: null,
  origin: null,
  pieces: "",
  layers: [layer("a"), layer("b")],
  targets: [{ id: "t", layer: "a", property: "fat", wanted: "1", tolerance: "" }],
  notes: [],
} as unknown as VersionRecord;

const first = (changed: VersionRecord) => changed.layers[0]?.ingredients[0];

it("leaves locking what was typed to the core", () => {
  expect(first(withAmount(version, "a", "l1", "3 g"))).toEqual({ ...line, amount: "3 g" });
});

it("holds a line in one way at a time, beginning with what it has", () => {
  const least = withHold(version, "a", "l1", "least");
  expect(first(least)).toMatchObject({ least: "2 tsp", part: "", locked: false });
  expect(first(withHold(least, "a", "l1", "ratio"))).toMatchObject({ least: "", part: "1" });
  expect(first(withHold(version, "a", "l1", "none"))).toMatchObject({ amount: "0 g", locked: true });
});

it("moves, takes out and keeps layers", () => {
  expect(withLayerMoved(version, "a", 1).layers.map((one) => one.id)).toEqual(["b", "a"]);
  expect(withLayerMoved(version, "a", -1)).toBe(version);
  expect(withoutLayer(version, "a").layers.map((one) => one.id)).toEqual(["b"]);
});

it("adds, changes and drops targets", () => {
  const more = withNewTarget(version, "sweetness", null);
  expect(more.targets[1]).toMatchObject({ property: "sweetness", layer: null, wanted: "" });
  expect(withTarget(version, "t", "wanted", "2").targets[0]?.wanted).toBe("2");
  expect(withoutTarget(version, "t").targets).toEqual([]);
});

it.each([
  ["2 tsp", "2 tsp"],
  ["12.345678 g", "12.35 g"],
  ["1.23456 g", "1.235 g"],
  ["0.01234567 g", "0.0123 g"],
  ["3 g", "3 g"],
])("shows %s as %s", (typed, shown) => {
  expect(shownAmount(typed)).toBe(shown);
});
