import { describe, expect, it } from "vitest";
import type { Result, Studies } from "$lib/state/study.svelte";
import { filtered, optionWords, wordsOf, type Brush } from "./filter";

// 2 x 3 candidates: sections across, fan duties along; the last one is not solved
const studies = {
  axes: [
    {
      address: "rad/sections",
      options: [
        { value: 2, label: "2 × 120" },
        { value: 3, label: "3 × 120" },
      ],
    },
    { address: "movers/fans", options: [{ value: 0.4, label: "40 %" }, { value: 0.6, label: "60 %" }, { value: 0.8 }] },
  ],
  optionsOf: (number: number) => [Math.floor(number / 3), number % 3],
} as unknown as Studies;
const result = {
  size: 6,
  columns: {
    margin_k: [2, 6, 9, 7, 11, null],
    level_dba: [28, 33, 39, 28, 33, null],
    price: [null, 90, 90, 120, 120, 120],
  },
} as unknown as Result;
const view = (more: Partial<Brush>) => filtered(studies, result, { rectangle: null, options: {}, ...more });

describe("candidates in view", () => {
  it("are the solved ones, less options that are switched off", () => {
    expect(view({})).toEqual([0, 1, 2, 3, 4]);
    expect(view({ options: { "movers/fans": [1] } })).toEqual([0, 2, 3]);
    expect(view({ options: { "movers/fans": [0], "rad/sections": [1] } })).toEqual([1, 2]);
  });
  it("lie in the rectangle, where both of its figures are known", () => {
    const rectangle = { x: "level_dba", y: "margin_k", x0: 27, x1: 34, y0: 5, y1: 12 } as const;
    expect(view({ rectangle })).toEqual([1, 3, 4]);
    expect(view({ rectangle: { ...rectangle, x: "price", x0: 0, x1: 100 } })).toEqual([1, 2]);
    expect(view({ rectangle, options: { "rad/sections": [1] } })).toEqual([1]);
  });
  it("are called by what their options are of", () => {
    expect(wordsOf(studies, 4)).toBe("3 × 120, fans 60 %");
    expect(optionWords(studies, 1, 2)).toBe("fans 0.8");
  });
});
