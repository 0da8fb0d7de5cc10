import { describe, expect, it } from "vitest";
import { clockOf, dueNext, lineOf, readCurves, roleOf, thinned } from "./live";

const channels = [{ role: "cpu/temperature" }, { role: "ignore" }, { role: "loop/coolant_hot" }];
const rows = [
  [0, 30, 1, 25],
  [60, null, 1, 26],
  [120, 50, 1, null],
];

describe("a live run", () => {
  it("draws what a channel read over minutes of the load, without what is missing", () => {
    expect(lineOf(rows, channels, "cpu/temperature", 1)).toEqual([
      [-1, 30],
      [1, 50],
    ]);
    expect(lineOf(rows, channels, "loop/coolant_hot", 0)).toEqual([
      [0, 25],
      [1, 26],
    ]);
    expect(lineOf(rows, channels, "drive/temperature", 0)).toEqual([]);
  });

  it("shows a clock", () => {
    expect([0, 0.5, 1, 61.999, 125.25, -3].map(clockOf)).toEqual(["0:00", "0:30", "1:00", "61:59", "125:15", "0:00"]);
  });

  it("thins lines and keeps their ends", () => {
    const points = Array.from({ length: 10 }, (_, i) => [i, i] as const);
    expect(thinned(points, 100)).toHaveLength(10);
    expect(thinned(points, 4).map(([m]) => m)).toEqual([0, 3, 6, 9]);
    expect(thinned(points.slice(0, 9), 4).at(-1)).toEqual([8, 8]);
  });

  it("names the role of each kind of curve", () => {
    const of = (kind: "place" | "coolant" | "air") => roleOf({ address: "a", kind });
    expect([of("place"), of("coolant"), of("air")]).toEqual(["a/temperature", "a/coolant_hot", "a/air"]);
  });

  it("puts what has least to spare first, and leaves out what nobody reads", () => {
    const curve = (address: string, settles_c: number, limit_c: number | null, kind = "place") =>
      ({ address, settles_c, limit_c, kind }) as never;
    const told = {
      curves: [curve("cpu", 60, 95), curve("loop", 40, null, "coolant"), curve("gpu", 80, 88), curve("x", 1, 2)],
    };
    const read = [...channels, { role: "gpu/temperature" }];
    expect(readCurves(told as never, read).map((c) => c.address)).toEqual(["gpu", "cpu", "loop"]);
    expect(readCurves(null, read)).toEqual([]);
  });

  it("says when to read next, and leaves a reading due for a while", () => {
    expect(dueNext([5, 20], 0)).toEqual({ at: 5, in: 5 });
    expect(dueNext([5, 20], 5.7)).toEqual({ at: 5, in: 5 - 5.7 });
    expect(dueNext([5, 20], 5.8)?.at).toBe(20);
    expect(dueNext([5, 20], 21)).toBeNull();
  });
});
