import { describe, expect, it } from "vitest";
import type { LabelRowEstimate } from "../api/types";
import { markGeometry } from "./stripGeometry";

const row = (best: number, low: number | null, high: number | null): LabelRowEstimate => ({
  row: "fat",
  short: "Fat",
  in_sight: true,
  pulls: false,
  title: "Fat",
  unit: "g",
  declared: low === null ? null : "24",
  declared_low: low,
  declared_high: high,
  computed: { best, low: best - 1, high: best + 1 },
  printed: String(best),
  is_evidence: true,
  tension: null,
});

describe("a target’s line", () => {
  it("has its band in the middle and the mark on it where they agree", () => {
    const mark = markGeometry(row(24, 23.5, 24.5));
    expect(mark?.at).toBeCloseTo(50);
    expect(mark?.bandAt).toBeCloseTo(50 - 100 / 6);
    expect(mark?.bandWidth).toBeCloseTo(100 / 3);
  });
  it("stretches so that a far estimate stays on it", () => {
    const mark = markGeometry(row(40, 23.5, 24.5));
    expect(mark?.at).toBeLessThanOrEqual(99);
    expect(mark?.bandWidth).toBeLessThan(10);
    expect(markGeometry(row(1, 23.5, 24.5))?.at).toBeGreaterThanOrEqual(1);
  });
  it("is not drawn where nothing is declared", () => {
    expect(markGeometry(row(24, null, null))).toBeNull();
  });
});
