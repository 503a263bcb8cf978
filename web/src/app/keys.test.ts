// @vitest-environment jsdom
import { afterEach, describe, expect, it } from "vitest";
import { actionOf, switchSingleKeys } from "./keys";

const press = (key: string, more: KeyboardEventInit = {}, target: EventTarget = document.body) => {
  const event = new KeyboardEvent("keydown", { key, ...more });
  Object.defineProperty(event, "target", { value: target });
  return event;
};

afterEach(() => {
  switchSingleKeys(true);
  document.body.innerHTML = "";
});

describe("keys", () => {
  it.each([
    ["g", {}, "g"],
    ["c", {}, "changes"],
    ["j", {}, "jump"],
    ["?", { shiftKey: true }, "help"],
    ["z", { ctrlKey: true }, "undo"],
    ["Z", { ctrlKey: true, shiftKey: true }, "redo"],
    ["y", { metaKey: true }, "redo"],
    ["x", {}, null],
    ["c", { ctrlKey: true }, null],
    ["j", { altKey: true }, null],
  ])("%s %o asks for %s", (key, more, action) => {
    expect(actionOf(press(key, more), false)).toBe(action);
  });
  it("a digit goes to a step only after g", () => {
    expect(actionOf(press("2"), true)).toBe("goTo");
    expect(actionOf(press("2"), false)).toBeNull();
    expect(actionOf(press("9"), true)).toBeNull();
  });
  it("belong to the field one is in", () => {
    const field = document.createElement("input");
    expect(actionOf(press("j", {}, field), false)).toBeNull();
    expect(actionOf(press("z", { ctrlKey: true }, field), false)).toBeNull();
  });
  it("go back from where nothing is typed: a choice that was just made", () => {
    const choice = document.createElement("select");
    const tick = Object.assign(document.createElement("input"), { type: "checkbox" });
    const cell = document.createElement("input");
    cell.dataset.cell = "ready";
    for (const field of [choice, tick, cell]) {
      expect(actionOf(press("z", { ctrlKey: true }, field), false)).toBe("undo");
      expect(actionOf(press("j", {}, field), false)).toBeNull();
    }
  });
  it("wait while a sheet is open", () => {
    document.body.innerHTML = '<div role="dialog"></div>';
    expect(actionOf(press("j"), false)).toBeNull();
  });
  it("can be switched off, but for undo", () => {
    switchSingleKeys(false);
    expect(actionOf(press("j"), false)).toBeNull();
    expect(actionOf(press("z", { ctrlKey: true }), false)).toBe("undo");
  });
});
