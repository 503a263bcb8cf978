import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { allSent, counted } from "./underway";

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

it("waits until the last that is on its way has arrived", async () => {
  const [first, second] = [counted(), counted()];
  const done = vi.fn();
  const waiting = allSent().then(done);
  first();
  await vi.advanceTimersByTimeAsync(1000);
  expect(done).not.toHaveBeenCalled();
  second();
  await waiting;
  expect(done).toHaveBeenCalledOnce();
});

it("says that it is kept where it does not arrive", async () => {
  const arrived = counted();
  const refused = expect(allSent()).rejects.toThrow("It is kept here; try this again");
  await vi.advanceTimersByTimeAsync(10_000);
  await refused;
  arrived();
  await expect(allSent()).resolves.toBeUndefined();
});
