// @vitest-environment jsdom
import { beforeEach, expect, it } from "vitest";
import type { Cause, Study } from "../api/types";
import { deciding, readAnew, remember, type Anew } from "./readAnew";

const cause = (key: string, decides: boolean) => ({ key, decides }) as Cause;
const done = (from: string, to: string): Anew => ({
  from,
  to,
  title: "t",
  fought: 1,
  before: { name: "x" } as Study,
});

beforeEach(() => localStorage.clear());

it("takes a reading that decides, once for each study", () => {
  expect(deciding(null, "a", [])).toBeUndefined();
  expect(deciding([cause("b", false)], "a", [])).toBeUndefined();
  expect(deciding([cause("b", true)], "a", [])?.key).toBe("b");
  expect(deciding([cause("b", true)], "a", [done("c", "a")])?.key).toBe("b");
  expect(deciding([cause("b", true)], "a", [done("a", "b")])).toBeUndefined();
});

it("remembers what was read anew, of each match for itself", () => {
  remember("one", done("a", "b"));
  remember("one", done("b", "c"));
  expect(readAnew("one").map((one) => one.to)).toEqual(["b", "c"]);
  expect(readAnew("other")).toEqual([]);
});
