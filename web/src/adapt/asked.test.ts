import { expect, it } from "vitest";
import { kindOf, limitOf, nearestRules, readAsked, toSearch, withLimit } from "./asked";

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

it("asks for all rules that are named as the nearest", () => {
  expect(nearestRules("vegan, keto:9")).toEqual(["vegan", "keto:9"]);
  expect(nearestRules("keto:7")).toEqual(["keto:7"]);
});
