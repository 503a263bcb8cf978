// @vitest-environment jsdom
import { expect, it } from "vitest";
import type { BatchPlan } from "../api/types";
import { withCell } from "./batchApi";

const plan: BatchPlan = {
  id: "b",
  version: "v",
  pieces: "24",
  left_on_tools: { coat: "3" },
  in_house: { honey: "2 tbsp" },
  left_over: {},
  breaks: "",
  by: "pieces",
  gear: "",
  gear_count: "",
  keeps: "thickness",
  cut_length: "",
  cut_width: "",
  trim: "",
  portioned: "",
  rolled: "",
  amount: "",
  whole: "",
  shell: "",
  cap: "",
  dip_bowl: "",
  dip_depth: "",
  room: "",
  humidity: "",
  made_on: "",
  lots: [],
  wrapped_in: [],
};

it("changes one cell of a plan's table and keeps the rest", () => {
  expect(withCell(plan, "in_house", "dates", "1 cup")).toEqual({
    ...plan,
    in_house: { honey: "2 tbsp", dates: "1 cup" },
  });
});

it("takes an emptied cell away", () => {
  expect(withCell(plan, "left_on_tools", "coat", " ").left_on_tools).toEqual({});
});
