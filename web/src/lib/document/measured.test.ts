import { describe, expect, it } from "vitest";
import { mayBeMeasured, measured } from "./measured";

describe("a figure of one's own", () => {
  it.each([
    ["mm", 0.5],
    ["°C", 0.5],
    ["W", "3%"],
    ["dBA", 2],
    ["K/W", "5%"],
    ["", "5%"],
  ])("in %s is measured to %s by one touch, and bare again by another", (unit, half) => {
    const now = measured(12, unit);
    expect(now).toEqual({ value: 12, plus_minus: half, from: "measured" });
    expect(measured(now, unit)).toBe(12);
  });
  it.each([
    [12, true],
    [0, true],
    [{ value: 12, from: "measured" as const }, true],
    [{ value: 12, from: "stated" as const }, true],
    [{ value: 12, from: "estimate" as const }, false],
    [{ value: 12, from: "datasheet" as const }, false],
    [undefined, false],
    [null, false],
  ])("%o may be measured: %s", (figure, may) => expect(mayBeMeasured(figure)).toBe(may));
});
