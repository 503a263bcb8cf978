import { describe, expect, it } from "vitest";
import { decimalsOfStep, figure, interval, percent, range } from "./figures";

describe("figures", () => {
  it.each([
    [13.37, undefined, "13.4"],
    [0.376, undefined, "0.38"],
    [0.0123, undefined, "0.012"],
    [329.04, undefined, "329"],
    [-8.2, 1, "−8.2"],
    [-0.0001, 1, "0"],
  ])("writes %s as %s", (value, decimals, text) => {
    expect(figure(value, decimals)).toBe(text);
  });
  it("writes both ends of a range with the same decimals", () => {
    expect(range(7.4, 10.75)).toBe("7.4 – 10.8");
    expect(range(0.04, 0.07)).toBe("0.040 – 0.070");
    expect(range(0, 0)).toBe("0");
    expect(range(-1.2, 3.4)).toBe("−1.2 – 3.4");
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
