import { describe, expect, it } from "vitest";
import { inReach, lessBand, marginColour, shownOn } from "./map";

describe("the map over two figures", () => {
  it("colours a margin by its status, the fuller the further from the limit, and what did not settle as neither", () => {
    const mixed = (tone: string, share: number) => `color-mix(in oklab, var(${tone}) ${share}%, var(--panel))`;
    expect(marginColour(0)).toBe(mixed("--holds", 12));
    expect(marginColour(20)).toBe(mixed("--holds", 56));
    expect(marginColour(40)).toBe(mixed("--holds", 100));
    expect(marginColour(90)).toBe(mixed("--holds", 100));
    expect(marginColour(-0.1)).toBe(mixed("--too-hot", 12));
    expect(marginColour(-20)).toBe(mixed("--too-hot", 56));
    expect(marginColour(null)).toBe("var(--sunk)");
  });
  it("shows duties in per cent and figures in three digits with their unit", () => {
    const axis = { address: "movers/fan/duty", name: "fan", unit: "", low: 0, high: 1, whole: false };
    expect(shownOn(axis as never, 0.456)).toBe("46 %");
    expect(shownOn({ ...axis, address: "sink/pitch_mm", unit: "mm" } as never, 12.3456)).toBe("12.3 mm");
  });
  it("takes half of the band off what is to spare, and knows nothing where either is unknown", () => {
    const answer = { spare_k: [[5, 5, null]], half_k: [[3, null, 3]] };
    expect(lessBand(answer)).toEqual([[2, null, null]]);
  });
  it("knows whether the build lies on the values shown", () => {
    expect(inReach({ values: [1, 2, 3], now: 3 })).toBe(true);
    expect(inReach({ values: [1, 2, 3], now: 3.01 })).toBe(false);
    expect(inReach({ values: [1, 2, 3], now: null })).toBe(false);
  });
});
