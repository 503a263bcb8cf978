import { describe, expect, it } from "vitest";
import { decimalsOfStep, figure, interval, percent, range } from "./figures";
import table from "../../../tests/figures.json"; // the core writes its sentences by the same table

describe("figures", () => {
  it.each(table.figures)("writes $value as $text", ({ value, decimals, text }) => {
    expect(figure(value, decimals)).toBe(text);
  });
  it.each(table.ranges)("writes $low to $high as $text", ({ low, high, text }) => {
    expect(range(low, high)).toBe(text);
  });
  it("shows as many decimals as a step has", () => {
    expect([0.01, 0.05, 0.1, 1, 5].map(decimalsOfStep)).toEqual([2, 2, 1, 0, 0]);
  });
  it("writes shares as whole per cent", () => {
    expect(percent(0.312)).toBe("31");
    expect(percent(0.003)).toBe("<1");
    expect(percent(0)).toBe("0");
  });
  it("writes what a figure stands for without idle digits", () => {
    expect(interval(23.5, 24.5)).toBe("23.5 to 24.5");
    expect(interval(0.375, 0.385)).toBe("0.375 to 0.385");
  });
});
