import "@testing-library/jest-dom/vitest";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Cell } from "./Cell";

afterEach(cleanup);

function table(onCommit = vi.fn(), problem: string | null = null) {
  render(
    <div data-cells>
      <Cell label="Fat" value="24" onCommit={onCommit} problem={problem} />
      <Cell label="Sugars" value="52" onCommit={onCommit} />
    </div>,
  );
  return onCommit;
}

describe("a field", () => {
  it("commits what was typed when it is left, and only then", () => {
    const onCommit = table();
    const fat = screen.getByLabelText("Fat");
    fireEvent.change(fat, { target: { value: "25" } });
    expect(onCommit).not.toHaveBeenCalled();
    fireEvent.blur(fat);
    expect(onCommit).toHaveBeenCalledExactlyOnceWith("25");
  });
  it("commits nothing that is as it was", () => {
    const onCommit = table();
    const fat = screen.getByLabelText("Fat");
    fireEvent.change(fat, { target: { value: "25" } });
    fireEvent.change(fat, { target: { value: "24" } });
    fireEvent.blur(fat);
    expect(onCommit).not.toHaveBeenCalled();
  });
  it("is left as it was by Escape", () => {
    const onCommit = table();
    const fat = screen.getByLabelText<HTMLInputElement>("Fat");
    fat.focus();
    fireEvent.change(fat, { target: { value: "25" } });
    fireEvent.keyDown(fat, { key: "Escape" });
    expect(onCommit).not.toHaveBeenCalled();
    expect(fat.value).toBe("24");
  });
  it("moves on by Enter and by arrows", () => {
    table();
    const fat = screen.getByLabelText("Fat");
    const sugars = screen.getByLabelText("Sugars");
    fat.focus();
    fireEvent.keyDown(fat, { key: "Enter" });
    expect(sugars).toHaveFocus();
    fireEvent.keyDown(sugars, { key: "ArrowUp" });
    expect(fat).toHaveFocus();
    fireEvent.keyDown(fat, { key: "ArrowDown" });
    expect(sugars).toHaveFocus();
  });
  it("says its problem to everyone", () => {
    table(vi.fn(), "“lots” was not read.");
    const fat = screen.getByLabelText("Fat");
    expect(fat).toBeInvalid();
    expect(fat).toHaveAccessibleDescription("“lots” was not read.");
  });
});
