import { expect, it } from "vitest";
import { kindOf, limitOf, nearer, readAsked, toSearch, withLimit } from "./asked";

it("is the same after going through the address", () => {
  const asked = { rules: ["vegan", "keto:4/serving"], forbidden: ["sugar"], required: ["coat:cocoa"] };
  expect(readAsked(new URLSearchParams(toSearch("v", asked)))).toEqual(asked);
});

it.each([
  ["keto", "keto", undefined],
  ["keto:4", "keto", "4"],
  ["keto:4/serving", "keto", "4"],
])("reads %s", (rule, kind, limit) => {
  expect([kindOf(rule), limitOf(rule)]).toEqual([kind, limit]);
});

it("writes a limit with what it is for", () => {
  expect(withLimit("keto", "4", "100g")).toBe("keto:4/100g");
  expect(withLimit("keto", "4", "")).toBe("keto:4");
});

it("puts the nearest rule in the place of its like, and a list in the place of all", () => {
  expect(nearer(["vegan", "keto:1"], "keto:7")).toEqual(["vegan", "keto:7"]);
  expect(nearer(["vegan", "keto:1"], "vegan, keto:9")).toEqual(["vegan", "keto:9"]);
});
