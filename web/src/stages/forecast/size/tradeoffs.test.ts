import { describe, expect, it } from "vitest";
import type { Result } from "$lib/state/study.svelte";
import { acrossOf, frontOf, known, spreadOver } from "./tradeoffs";

const result = (columns: Record<string, (number | null)[]>, meets?: number[]) =>
  ({ columns, meets: meets ?? columns["margin_k"]!.map((_, i) => i) }) as unknown as Result;
const SHOWN = { x: "level_dba", y: "margin_k" } as const;
const all = (of: Result) => of.columns["margin_k"]!.map((_, i) => i);

describe("the front of the figures shown", () => {
  // 1 is beaten by 0 (louder, no cooler), 4 misses a demand, 5 has no level
  const study = result(
    { level_dba: [28, 30, 33, 39, 25, null], margin_k: [4, 4, 6, 9, 20, 30], height_mm: [60, 40, 50, 55, 10, 10] },
    [0, 1, 2, 3, 5],
  );

  it("is what nothing beats in both, from quiet to loud", () => {
    expect(frontOf(study, all(study), SHOWN)).toEqual([0, 2, 3]);
  });

  it("is another one over another figure", () => {
    expect(frontOf(study, all(study), { x: "height_mm", y: "margin_k" })).toEqual([5]);
    expect(frontOf(study, [0, 1, 2, 3], { x: "height_mm", y: "level_dba" })).toEqual([1, 0]);
  });

  it("runs along the figure across, also where more of it is better", () => {
    expect(frontOf(study, all(study), { x: "margin_k", y: "level_dba" })).toEqual([0, 2, 3]);
  });

  it("is made of what is in view", () => {
    expect(frontOf(study, [1, 3], SHOWN)).toEqual([1, 3]);
    expect(frontOf(result({ margin_k: [1] }, []), [0], SHOWN)).toEqual([]);
  });
});

describe("a few of a front", () => {
  const line = result({ level_dba: [20, 21, 22, 23, 24, 25, 30], margin_k: [1, 2, 3, 4, 5, 6, 11] });

  it("are its ends and what lies evenly between, not what lies thickest", () => {
    expect(spreadOver(line, all(line), SHOWN, 3)).toEqual([0, 5, 6]);
    expect(spreadOver(line, all(line), SHOWN, 4)).toEqual([0, 3, 5, 6]);
  });

  it("are all of a short one", () => {
    expect(spreadOver(line, [3, 4], SHOWN, 5)).toEqual([3, 4]);
  });
});

it("lies over sound, or over what differs where all are silent", () => {
  expect(acrossOf(result({ level_dba: [20, 22], height_mm: [1, 90], margin_k: [1, 9] }))).toBe("level_dba");
  expect(acrossOf(result({ level_dba: [20, 21.5], height_mm: [1, 90], margin_k: [1, 9] }))).toBe("height_mm");
  expect(acrossOf(result({ level_dba: [0, 0], margin_k: [1, 9] }))).toBe("level_dba");
  expect(known(result({ level_dba: [20], price: [null], margin_k: [1] })).map(([key]) => key)).toEqual([
    "level_dba",
    "margin_k",
  ]);
});
