// @vitest-environment jsdom
import { renderHook } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { useInTurn } from "./inTurn";

describe("what is asked for while an edit is on its way", () => {
  it("is done when the edit has ended, one at a time and in the order pressed", () => {
    const done: string[] = [];
    const { result, rerender } = renderHook(
      ({ busy }) => useInTurn<string>(busy, (asked) => done.push(asked)),
      {
        initialProps: { busy: true },
      },
    );
    result.current("undo");
    result.current("redo");
    expect(done).toEqual([]);
    rerender({ busy: false });
    expect(done).toEqual(["undo"]);
    rerender({ busy: true });
    expect(done).toEqual(["undo"]);
    rerender({ busy: false });
    expect(done).toEqual(["undo", "redo"]);
  });

  it("is done at once where nothing is under way", () => {
    const done: string[] = [];
    const { result } = renderHook(() => useInTurn<string>(false, (asked) => done.push(asked)));
    result.current("undo");
    expect(done).toEqual(["undo"]);
  });
});
