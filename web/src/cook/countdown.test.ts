import { expect, it } from "vitest";
import { countdown } from "./countdown";

it.each([
  [0, "0:00"],
  [65, "1:05"],
  [3725, "1:02:05"],
  [-61, "−1:01"],
])("%s seconds are %s", (seconds, words) => {
  expect(countdown(seconds)).toBe(words);
});
