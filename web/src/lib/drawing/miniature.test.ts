import { describe, expect, it } from "vitest";
import { miniature } from "./miniature";

const tower = { watts: 75, floor_k: 10, drops_k: [5, 15], limit_k: 60 };
const small = { watts: 25, floor_k: 10, drops_k: [10], limit_k: null };

describe("the small picture of terraces", () => {
  it("is as wide as watts and as high as kelvins, the limit a line above", () => {
    const drawn = miniature([tower, small], 101, 62);
    expect(drawn.blocks.map((block) => block.width)).toEqual([75, 75, 75, 25, 25]);
    expect(drawn.blocks.map((block) => block.height)).toEqual([10, 5, 15, 10, 10]);
    expect(drawn.blocks[0]!.y + drawn.blocks[0]!.height).toBe(62);
    expect(drawn.blocks[2]!.y).toBe(62 - 30);
    expect(drawn.limits).toEqual([{ x: 0, y: 2, width: 75 }]);
    expect(drawn.blocks[3]!.x).toBe(76);
  });

  it("colours by the share of the way to the limit", () => {
    const [floor, , last] = miniature([tower], 100, 62).blocks;
    expect(floor!.share).toBeCloseTo(5 / 60);
    expect(last!.share).toBeCloseTo(22.5 / 60);
  });

  it("keeps thin sources to be seen, and draws nothing of nothing", () => {
    const thin = miniature([tower, { ...small, watts: 0.1 }], 100, 60);
    expect(thin.blocks.at(-1)!.width).toBeGreaterThan(5);
    expect(miniature([], 100, 60)).toEqual({ blocks: [], limits: [] });
  });
});
