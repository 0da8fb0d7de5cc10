import { describe, expect, it } from "vitest";
import { drivenBy, FIXED, readShares, stepped } from "./driven";

describe("how a mover takes a duty", () => {
  it("follows it where nothing is said", () => {
    expect(drivenBy(undefined)).toEqual({ kind: "free" });
    expect(drivenBy([])).toEqual({ kind: "free" });
  });

  it("cannot be slowed", () => expect(drivenBy(FIXED)).toEqual({ kind: "fixed" }));

  it("has steps over equal parts of the duty, read back as they were typed", () => {
    const table = stepped([1, 0.4, 0.7]);
    expect(table).toEqual([
      [0, 0.4],
      [0.3323, 0.4],
      [0.3333, 0.7],
      [0.6657, 0.7],
      [0.6667, 1],
      [1, 1],
    ]);
    expect(drivenBy(table)).toEqual({ kind: "steps", shares: [0.4, 0.7, 1] });
    expect(drivenBy(stepped([0.6]))).toEqual({ kind: "steps", shares: [0.6] });
  });

  it("is measured where it is neither", () => {
    const table = [
      [0.2, 0.3],
      [1, 1],
    ];
    expect(drivenBy(table)).toEqual({ kind: "measured" });
  });

  it("reads per cents, with comma or sign, and nothing else", () => {
    expect(readShares("40 % 70; 100")).toEqual([0.4, 0.7, 1]);
    expect(readShares("62,5")).toEqual([0.625]);
    expect(readShares("0")).toBeNull();
    expect(readShares("101")).toBeNull();
    expect(readShares("slow")).toBeNull();
    expect(readShares("")).toBeNull();
  });
});
