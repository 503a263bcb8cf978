import { describe, expect, it } from "vitest";
import type { ScheduleLine } from "../api/types";
import { lanesOf, ticksOf } from "./lanes";

const line = (part: Partial<ScheduleLine>): ScheduleLine => ({
  step: "s",
  round: 1,
  title: "S",
  layer_id: "",
  start_min: 0,
  hands_end_min: 5,
  end_min: 10,
  start: "00:00",
  end: "00:10",
  day: 1,
  cook: 1,
  place: "bench",
  ...part,
});

describe("lanes", () => {
  it("gives each cook a lane of hands on, and each place one of all that stands there", () => {
    const lanes = lanesOf(
      [line({ place: "oven" }), line({ step: "t", cook: 2, start_min: 5, hands_end_min: 10 })],
      0,
      10,
    );
    expect(lanes.map((one) => one.name)).toEqual(["Cook 1", "Cook 2", "Oven"]);
    expect(lanes[0]?.bars[0]).toMatchObject({ at: 0, width: 0.5, busy: true });
    expect(lanes[2]?.bars[0]).toMatchObject({ at: 0, width: 1, busy: false });
  });

  it("keeps what takes no hands out of the cooks' lanes", () => {
    const lanes = lanesOf([line({ hands_end_min: 0, place: "fridge" })], 0, 10);
    expect(lanes.map((one) => one.name)).toEqual(["Fridge"]);
  });
});

describe("ticks", () => {
  it("are few enough to read, and name the day from the second on", () => {
    expect(ticksOf(540, 660).map((one) => one.words)).toEqual([
      "09:00",
      "09:15",
      "09:30",
      "09:45",
      "10:00",
      "10:15",
      "10:30",
      "10:45",
      "11:00",
    ]);
    expect(ticksOf(1200, 2000).at(-1)?.words).toBe("day 2, 08:00");
  });
});
