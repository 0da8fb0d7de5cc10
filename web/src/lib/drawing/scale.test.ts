import { describe, expect, it } from "vitest";
import { zeroLine } from "./contour";
import { between, position, spanOf, ticks } from "./scale";

describe("scales of charts", () => {
  it("span what is known with room around it, and tick in round numbers", () => {
    expect(spanOf([1, null, 11])).toEqual([0.5, 11.5]);
    expect(spanOf([null])).toEqual([0, 1]);
    expect(ticks([18.2, 41], 5)).toEqual([20, 25, 30, 35, 40]);
    expect(ticks([-22, 21], 5)).toEqual([-20, -10, 0, 10, 20]);
    expect(between(5, [0, 10], [100, 200])).toBe(150);
    expect(between(5, [5, 5], [100, 200])).toBe(100);
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
