// @vitest-environment jsdom
import "@testing-library/jest-dom/vitest";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";
import { point, usePointable, usePointed } from "./pointing";

afterEach(() => {
  point(null);
  cleanup();
});

it("marks every element of a layer without rendering any of them", () => {
  let renders = 0;
  function Row({ layerId }: { layerId: string }) {
    renders += 1;
    return <div {...usePointable(layerId)}>{`${layerId} ${renders}`}</div>;
  }
  render(
    <>
      <Row layerId="coat" />
      <Row layerId="caramel" />
      <Row layerId="coat" />
    </>,
  );
  fireEvent.pointerEnter(screen.getByText("coat 1"));
  expect(screen.getByText("coat 1")).toHaveAttribute("data-pointed");
  expect(screen.getByText("coat 3")).toHaveAttribute("data-pointed");
  expect(screen.getByText("caramel 2")).not.toHaveAttribute("data-pointed");
  fireEvent.pointerLeave(screen.getByText("coat 1"));
  expect(document.querySelector("[data-pointed]")).toBeNull();
  expect(renders).toBe(3);
});

it("tells what is drawn about the pointed layer, and marks what comes in later", () => {
  const Words = () => <p>{usePointed() ?? "none"}</p>;
  const Late = () => <div {...usePointable("coat")}>late</div>;
  const { rerender } = render(<Words />);
  fireEvent(document.body, new Event("x"));
  point("coat");
  rerender(
    <>
      <Words />
      <Late />
    </>,
  );
  expect(screen.getByText("coat")).toBeInTheDocument();
  expect(screen.getByText("late")).toHaveAttribute("data-pointed");
});
