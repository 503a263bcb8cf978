// @vitest-environment jsdom
import "@testing-library/jest-dom/vitest";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { useState } from "react";
import { Cell, told } from "./Cell";

afterEach(cleanup);

const field = (name: string) => screen.getByLabelText<HTMLInputElement>(name);
const press = (key: string, more = {}) =>
  fireEvent.keyDown(document.activeElement ?? document.body, { key, ...more });

/** Two rows of two readings, and a lone field under them. */
function table(onCommit = vi.fn()) {
  const cell = (name: string, value: string) => <Cell label={name} value={value} onCommit={onCommit} />;
  render(
    <div data-cells>
      <table>
        <tbody>
          <tr>
            <td>{cell("coat 1", "9.1")}</td>
            <td>{cell("coat 2", "9.3")}</td>
          </tr>
          <tr>
            <td>{cell("base 1", "12")}</td>
            <td>{cell("base 2", "12.4")}</td>
          </tr>
        </tbody>
      </table>
      {cell("note", "")}
    </div>,
  );
  return onCommit;
}

describe("a field", () => {
  it("commits what was typed when it is left, and only then", () => {
    const onCommit = table();
    fireEvent.change(field("coat 1"), { target: { value: "25" } });
    expect(onCommit).not.toHaveBeenCalled();
    fireEvent.blur(field("coat 1"));
    expect(onCommit).toHaveBeenCalledExactlyOnceWith("25");
  });
  it("commits nothing that is as it was", () => {
    const onCommit = table();
    fireEvent.change(field("coat 1"), { target: { value: "25" } });
    fireEvent.change(field("coat 1"), { target: { value: "9.1" } });
    fireEvent.blur(field("coat 1"));
    expect(onCommit).not.toHaveBeenCalled();
  });
  it("is left as it was by Escape, and a second Escape leaves the table", () => {
    const onCommit = table();
    field("coat 1").focus();
    fireEvent.change(field("coat 1"), { target: { value: "25" } });
    press("Escape");
    expect(field("coat 1")).toHaveFocus();
    expect(field("coat 1")).toHaveValue("9.1");
    press("Escape");
    expect(field("coat 1")).not.toHaveFocus();
    expect(onCommit).not.toHaveBeenCalled();
  });
  it("says its problem to everyone, else what it was read as", () => {
    const typed = { typed: "lots", value: null, unit: "g", problem: "“lots” was not read.", read_as: null };
    render(<Cell label="Fat" value="lots" onCommit={vi.fn()} {...told(typed)} />);
    expect(field("Fat")).toBeInvalid();
    expect(field("Fat")).toHaveAccessibleDescription("“lots” was not read.");
    cleanup();
    const read = { typed: "1 oz", value: 28.35, unit: "g", problem: null, read_as: "28.3 g" };
    render(<Cell label="Fat" value="1 oz" onCommit={vi.fn()} {...told(read)} />);
    expect(field("Fat")).toBeValid();
    expect(field("Fat")).toHaveAccessibleDescription("read as 28.3 g");
  });
});

describe("a table of fields", () => {
  it("moves by arrows in both directions, and stays at its edges", () => {
    table();
    field("coat 1").focus();
    press("ArrowRight");
    expect(field("coat 2")).toHaveFocus();
    press("ArrowRight");
    expect(field("coat 2")).toHaveFocus();
    press("ArrowDown");
    expect(field("base 2")).toHaveFocus();
    press("ArrowLeft");
    expect(field("base 1")).toHaveFocus();
    press("ArrowDown");
    expect(field("note")).toHaveFocus();
    press("ArrowUp");
    press("ArrowUp");
    expect(field("coat 1")).toHaveFocus();
  });
  it.each(["F2", "Enter"])("edits on %s: then sideways arrows stay in the text", (key) => {
    table();
    field("coat 1").focus();
    press(key);
    press("ArrowRight");
    expect(field("coat 1")).toHaveFocus();
    expect(field("coat 1").selectionStart).toBe(3);
  });
  it("keeps an edit by Enter and goes down, by Shift Enter up", () => {
    const onCommit = table();
    field("coat 2").focus();
    fireEvent.change(field("coat 2"), { target: { value: "9.5" } });
    press("Enter");
    expect(onCommit).toHaveBeenCalledExactlyOnceWith("9.5");
    expect(field("base 2")).toHaveFocus();
    fireEvent.change(field("base 2"), { target: { value: "13" } });
    press("Enter", { shiftKey: true });
    expect(onCommit).toHaveBeenLastCalledWith("13");
    expect(field("coat 2")).toHaveFocus();
  });
  it("keeps an edit by Enter on the last field, and stays there", () => {
    const onCommit = table();
    field("note").focus();
    fireEvent.change(field("note"), { target: { value: "done" } });
    press("Enter");
    expect(onCommit).toHaveBeenCalledExactlyOnceWith("done");
    expect(field("note")).toHaveFocus();
  });
});

describe("a row of fields that grows", () => {
  function Row() {
    const [typed, setTyped] = useState<string[]>([]);
    return (
      <div data-cells>
        <table>
          <tbody>
            <tr>
              {[...typed, ""].map((value, at) => (
                <td key={at}>
                  <Cell
                    label={`reading ${at + 1}`}
                    value={value}
                    grows={at === typed.length}
                    onCommit={(text) => setTyped((before) => [...before.slice(0, at), text])}
                  />
                </td>
              ))}
            </tr>
          </tbody>
        </table>
      </div>
    );
  }
  it("goes on by Tab to the field that the last one made, before the next key", () => {
    render(<Row />);
    field("reading 1").focus();
    fireEvent.change(field("reading 1"), { target: { value: "8.6" } });
    press("Tab");
    expect(field("reading 2")).toHaveFocus();
    expect(field("reading 1")).toHaveValue("8.6");
    press("Tab"); // an empty field is left as usual
    expect(field("reading 2")).toHaveFocus();
    expect(screen.queryByLabelText("reading 3")).toBeNull();
  });
});
