// @vitest-environment jsdom
import { act } from "react";
import { createRoot, type Root } from "react-dom/client";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { useKeptFocus } from "./focus";

(globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean }).IS_REACT_ACT_ENVIRONMENT = true;

function Watching() {
  useKeptFocus();
  return null;
}

let list: HTMLElement;
let root: Root;
beforeEach(async () => {
  vi.useFakeTimers();
  document.body.innerHTML =
    '<div id="root"></div><ul><li><button>one</button></li><li><button>two</button></li><li><button>three</button></li></ul>';
  list = document.querySelector("ul") as HTMLElement;
  await act(async () => {
    root = createRoot(document.getElementById("root") as HTMLElement);
    root.render(<Watching />);
    await Promise.resolve();
  });
});
afterEach(() => {
  act(() => root.unmount());
  vi.useRealTimers();
});

const settled = async () => {
  await Promise.resolve();
  await vi.advanceTimersByTimeAsync(1000);
};

it("goes to what moved into the place of what went", async () => {
  list.querySelectorAll("button")[1]?.focus();
  list.children[1]?.remove();
  await settled();
  expect(document.activeElement?.textContent).toBe("three");
});

it("goes to what is before it where nothing follows", async () => {
  list.querySelectorAll("button")[2]?.focus();
  list.children[2]?.remove();
  await settled();
  expect(document.activeElement?.textContent).toBe("two");
});

it("stays off where the focus was left on purpose", async () => {
  const button = list.querySelector("button");
  button?.focus();
  button?.blur();
  await settled();
  expect(document.activeElement).toBe(document.body);
});
