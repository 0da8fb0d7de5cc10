import { describe, expect, it } from "vitest";
import { nearestDot, type Dot } from "./shapes";

const dot = (number: number, x: number, y: number, meets = false): Dot => ({
  number,
  x,
  y,
  radius: 3,
  shape: 0,
  meets,
});

describe("dots under a pointer", () => {
  it("give the nearest within reach, those that meet the demands a little sooner", () => {
    const dots = [dot(1, 0, 0), dot(2, 10, 0), dot(3, 11, 0, true)];
    expect(nearestDot(dots, 1, 1)).toBe(1);
    expect(nearestDot(dots, 10, 0)).toBe(3);
    expect(nearestDot(dots, 200, 200)).toBeNull();
  });
});
