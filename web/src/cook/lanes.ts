/** The schedule as lanes: who and what is busy when; pure, minutes to shares of the width. */
import type { ScheduleLine } from "../api/types";

export interface Bar {
  key: string;
  step: string;
  round: number;
  title: string;
  layerId: string;
  /** Shares of the width. */
  at: number;
  width: number;
  /** Hands on, or waiting. */
  busy: boolean;
}

export interface Lane {
  name: string;
  bars: Bar[];
}

export interface Tick {
  at: number;
  words: string;
}

const PLACES: readonly (readonly [string, string])[] = [
  ["burner", "Hob"],
  ["oven", "Oven"],
  ["mixer", "Mixer"],
  ["iron", "Iron"],
  ["fridge", "Fridge"],
  ["freezer", "Freezer"],
  ["room", "Standing"],
];
const STEPS_MIN = [15, 30, 60, 120, 180, 360, 720, 1440];
const MOST_TICKS = 9;

/** Lanes from top to bottom: cooks with their hands on, then whatever stands somewhere by itself. */
export function lanesOf(lines: readonly ScheduleLine[], start: number, end: number): Lane[] {
  const long = Math.max(1, end - start);
  const share = (minute: number) => (minute - start) / long;
  const bar = (line: ScheduleLine, from: number, to: number, busy: boolean): Bar => ({
    key: `${line.step} ${line.round} ${busy}`,
    step: line.step,
    round: line.round,
    title: line.title,
    layerId: line.layer_id,
    at: share(from),
    width: share(to) - share(from),
    busy,
  });
  const cooks = [...new Set(lines.filter((one) => one.hands_end_min > one.start_min).map((one) => one.cook))];
  const lanes: Lane[] = cooks
    .sort((one, other) => one - other)
    .map((cook) => ({
      name: cooks.length > 1 ? `Cook ${cook}` : "Hands on",
      bars: lines
        .filter((one) => one.cook === cook && one.hands_end_min > one.start_min)
        .map((one) => bar(one, one.start_min, one.hands_end_min, true)),
    }));
  for (const [place, name] of PLACES) {
    const there = lines.filter((one) => one.place === place && one.end_min > one.start_min);
    if (there.length)
      lanes.push({ name, bars: there.map((one) => bar(one, one.start_min, one.end_min, false)) });
  }
  return lanes;
}

/** Times along the top: as many as can be read. */
export function ticksOf(start: number, end: number): Tick[] {
  const step = STEPS_MIN.find((one) => (end - start) / one <= MOST_TICKS) ?? 2880;
  const ticks: Tick[] = [];
  for (let minute = Math.ceil(start / step) * step; minute <= end; minute += step) {
    const ofDay = minute % 1440;
    const clock = `${String(Math.floor(ofDay / 60)).padStart(2, "0")}:${String(ofDay % 60).padStart(2, "0")}`;
    const day = Math.floor(minute / 1440) + 1;
    ticks.push({
      at: (minute - start) / Math.max(1, end - start),
      words: day > 1 ? `day ${day}, ${clock}` : clock,
    });
  }
  return ticks;
}
