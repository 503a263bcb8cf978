import { expect, test } from "vitest";
import { shownWidths } from "./scale";

const photo = (id: string, width_px: number, mm_per_px: number | null) => ({
  photo: { id, width_px },
  mm_per_px,
});

test("a millimetre is as long in every picture whose scale is known", () => {
  const found = shownWidths([photo("a", 1200, 0.04), photo("b", 600, 0.04)], 300);
  expect(found.get("a")).toBe(300); // 48 mm
  expect(found.get("b")).toBe(150); // 24 mm
});

test("one without a scale takes all the width and disturbs no other", () => {
  const found = shownWidths([photo("a", 1200, 0.03), photo("b", 800, null)], 300);
  expect([found.get("a"), found.get("b")]).toEqual([300, 300]);
});

test("nothing to show is nothing shown", () => {
  expect(shownWidths([], 300).size).toBe(0);
});
