import { describe, expect, it } from "vitest";
import { zeroLine } from "./contour";
import { along, lineThrough, position, scaleOf, spanOf } from "./scale";

describe("scales of charts", () => {
  it("span what is known with room around it, and tick in round numbers", () => {
    expect(spanOf([1, null, 11])).toEqual([0.5, 11.5]);
    expect(spanOf([null])).toEqual([0, 1]);
    expect(scaleOf([18.2, 41], [0, 1]).ticks(5)).toEqual([20, 25, 30, 35, 40]);
    expect(scaleOf([-22, 21], [0, 1]).ticks(5)).toEqual([-20, -10, 0, 10, 20]);
    expect(scaleOf([0, 10], [100, 200])(5)).toBe(150);
    expect(scaleOf([0, 10], [100, 200]).invert(150)).toBe(5);
    expect(scaleOf([5, 5], [100, 200])(5)).toBe(150);
  });
  it("read a curve between its points", () => {
    const curve = along([
      [1, 10],
      [3, 20],
      [5, 0],
    ]);
    expect([1, 2, 3, 4.5].map(curve)).toEqual([10, 15, 20, 5]);
  });
  it("draw a line through points in tenths of a pixel, and nothing through none", () => {
    expect(
      lineThrough([
        [0, 1],
        [2.04, 3.26],
      ]),
    ).toBe("M0,1L2,3.3");
    expect(lineThrough([])).toBe("");
  });
  it("say where a value lies between rising ones", () => {
    expect(position([1, 2, 4], 3)).toBe(1.5);
    expect(position([1, 2, 4], 1)).toBe(0);
    expect(position([1, 2, 4], 5)).toBeNull();
    expect(position([1, 2, 4], null)).toBeNull();
  });
});

describe("the line where a grid crosses zero", () => {
  it("runs between the columns where the sign turns, and not along the edge", () => {
    const grid = [0, 1, 2, 3].map(() => [-1.5, -0.5, 0.5, 1.5]);
    const line = zeroLine(
      grid,
      (column) => column,
      (row) => row,
    );
    const drawn = [...line.matchAll(/L([\d.-]+) ([\d.-]+)/g)].map(([, x]) => Number(x));
    expect(drawn.length).toBeGreaterThan(1);
    expect(new Set(drawn)).toEqual(new Set([1.5]));
  });
  it("is empty where nothing crosses", () => {
    expect(zeroLine([[1, 1]], Number, Number)).not.toContain("L");
    expect(zeroLine([], Number, Number)).toBe("");
  });
});
