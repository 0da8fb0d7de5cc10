import { describe, expect, it } from "vitest";
import { apart, fits, short } from "./words";

it("cuts a text to its room and says so, and leaves what fits", () => {
  expect(short("Radiator", 8 * 6.4)).toBe("Radiator");
  expect(short("Radiator", 8 * 6.4 - 1)).toBe("Radiat…");
  expect(short("Radiator", 0)).toBe("Ra…");
  expect(short("Plate", 36, 7.2)).toBe("Plate");
  expect(short("Plate", 35, 7.2)).toBe("Pla…");
});
it("fits while its letters are narrower than the room", () => {
  expect(fits("Plate", 34.6)).toBe(true);
  expect(fits("Plate", 34.5)).toBe(false);
});

describe("labels beside curves", () => {
  it("are moved apart downwards, and back up at the lower end", () => {
    expect(apart([10, 12, 40], 14, 100)).toEqual([10, 24, 40]);
    expect(apart([90, 92, 95], 14, 100)).toEqual([72, 86, 100]);
    expect(apart([], 14, 100)).toEqual([]);
  });
});
