// @vitest-environment jsdom
import { fireEvent, render, screen } from "@testing-library/svelte";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Result, Studies } from "$lib/state/study.svelte";
import { scaleOf, spanOf } from "$lib/drawing/scale";
import Dots from "./Dots.svelte";
import type { Brush } from "./filter";
import type { Shown } from "./tradeoffs";

const WIDTH = 440;
beforeEach(() => {
  vi.stubGlobal(
    "ResizeObserver",
    class {
      observe() {}
      unobserve() {}
      disconnect() {}
    },
  );
  vi.spyOn(HTMLElement.prototype, "clientWidth", "get").mockReturnValue(WIDTH);
  vi.spyOn(HTMLCanvasElement.prototype, "getContext").mockReturnValue(null);
  Element.prototype.setPointerCapture = () => {};
});

const levels = [28, 33, 39];
const margins = [2, 6, 9];
// where the plot's edges lie is its own: left 44, right 12, top 12, bottom 34 of 330 pixels
const x = scaleOf(spanOf(levels), [44, WIDTH - 12]);
const y = scaleOf(spanOf(margins), [330 - 34, 12]);

function dots() {
  const studies = {
    axes: [{ address: "movers/fans", options: [{ value: 0.4 }, { value: 0.6 }, { value: 0.8 }] }],
    optionsOf: (number: number) => [number],
    chosen: null,
    second: null,
    choose: vi.fn(),
    beside: vi.fn(),
  };
  const result = {
    size: 3,
    columns: { level_dba: levels, margin_k: margins },
    meets: [1, 2],
    undominated: [1],
  } as unknown as Result;
  const held = $state<{ brush: Brush; figures: Shown }>({
    brush: { rectangle: null, options: {} },
    figures: { x: "level_dba", y: "margin_k" },
  });
  render(Dots, {
    studies: studies as unknown as Studies,
    result,
    shown: [0, 1, 2],
    names: { "movers/fans": "All fans: duty" },
    front: [1, 2],
    best: [1, 2],
    get figures() {
      return held.figures;
    },
    set figures(next: Shown) {
      held.figures = next;
    },
    get brush() {
      return held.brush;
    },
    set brush(next: Brush) {
      held.brush = next;
    },
  });
  return { studies, held, plot: screen.getByTestId("dots") };
}

const at = (number: number) => ({ clientX: x(levels[number]!), clientY: y(margins[number]!), pointerId: 1 });

describe("candidates as dots", () => {
  it("are chosen by a click and put beside by Shift", async () => {
    const { studies, plot } = dots();
    await fireEvent.pointerDown(plot, at(1));
    await fireEvent.pointerUp(plot, at(1));
    expect(studies.choose).toHaveBeenCalledWith(1);
    await fireEvent.pointerDown(plot, at(2));
    await fireEvent.pointerUp(plot, { ...at(2), shiftKey: true });
    expect(studies.beside).toHaveBeenCalledWith(2);
  });
  it("tell their figures while they are pointed at", async () => {
    const { plot } = dots();
    await fireEvent.pointerMove(plot, at(2));
    expect(screen.getByText(/9\.0 K, 39\.0 dBA/)).toBeTruthy();
    await fireEvent.pointerLeave(plot);
    expect(screen.getByText(/3 in view\. Filled ones meet every demand/)).toBeTruthy();
  });
  it("are kept by a rectangle in the figures of the axes, whichever way it is drawn, until the zoom is reset", async () => {
    const { held, plot } = dots();
    await fireEvent.pointerDown(plot, { clientX: x(36), clientY: y(4), pointerId: 1 });
    await fireEvent.pointerMove(plot, { clientX: x(30), clientY: y(8), pointerId: 1 });
    await fireEvent.pointerUp(plot, { clientX: x(30), clientY: y(8), pointerId: 1 });
    const { rectangle } = held.brush;
    expect([rectangle?.x, rectangle?.y]).toEqual(["level_dba", "margin_k"]);
    const ends = [rectangle!.x0, rectangle!.x1, rectangle!.y0, rectangle!.y1].map((v) => Number(v.toFixed(6)));
    expect(ends).toEqual([30, 36, 4, 8]);
    await userEvent.click(screen.getByRole("button", { name: "Reset zoom" }));
    expect(held.brush.rectangle).toBeNull();
  });
  it("are gone through by arrows, looked at by Enter, put beside by Shift and Enter", async () => {
    const { studies, plot } = dots();
    plot.focus();
    await userEvent.keyboard("{ArrowRight}");
    expect(screen.getByText(/6\.0 K, 33\.0 dBA/)).toBeTruthy();
    await userEvent.keyboard("{ArrowRight}{Enter}");
    expect(studies.choose).toHaveBeenCalledWith(2);
    await userEvent.keyboard("{ArrowLeft}{ArrowLeft}{Shift>}{Enter}{/Shift}");
    expect(studies.beside).toHaveBeenCalledWith(0);
    await userEvent.keyboard("{ArrowLeft}");
    expect(screen.getByText(/2\.0 K, 28\.0 dBA/)).toBeTruthy();
  });
  it("have the best of them numbered, and lie over the figures that are chosen", async () => {
    const { held } = dots();
    expect(screen.getByText("1", { selector: ".best" })).toBeTruthy();
    expect(screen.getByText("2", { selector: ".best" })).toBeTruthy();
    await userEvent.selectOptions(screen.getByRole("combobox", { name: "Upwards" }), "level_dba");
    expect(held.figures).toEqual({ x: "level_dba", y: "level_dba" });
  });
});
