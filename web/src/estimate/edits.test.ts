import { expect, it } from "vitest";
import type { Study } from "../api/types";
import { withDoubt } from "./edits";

it("switches a piece of evidence off once, and on again", () => {
  const study = { name: "x", doubted: ["row:fat"] } as unknown as Study;
  expect(withDoubt(study, "row:fat", true).doubted).toEqual(["row:fat"]);
  expect(withDoubt(study, "row:sugars", true).doubted).toEqual(["row:fat", "row:sugars"]);
  expect(withDoubt(study, "row:fat", false).doubted).toEqual([]);
});
