import { describe, expect, it } from "vitest";
import { arrowLength, columns, unfolded, widthFor } from "$lib/drawing/faces";
import { LABEL, placed } from "./labels";
import type { Face } from "$lib/document/build";

type Box = { x0: number; x1: number; y0: number; y1: number };
const apart = (a: Box, b: Box) => a.x1 <= b.x0 || b.x1 <= a.x0 || a.y1 <= b.y0 || b.y1 <= a.y0;

/** The two lines of figures of each mouth on a face, as boxes. */
function labels(face: Face, size: number[], weights: number[], flows: number[], width = 770): Box[] {
  const needs = { [face]: widthFor(weights, LABEL) };
  const rects = unfolded(size, width, 400, needs);
  return columns(rects[face], weights).map((rect, i) => {
    const { textX, y, anchor } = placed({ face, flow: flows[i]!, into: i % 2 === 0 }, rect, rects[face], 100);
    const x0 = anchor === "middle" ? textX - LABEL / 2 : textX;
    return { x0, x1: x0 + LABEL, y0: y - 11, y1: y + 14 };
  });
}

const TOWER = [200, 400, 380];
describe("figures at the arrows", () => {
  it.each<[Face, number[], number[]]>([
    ["back", TOWER, [1, 1, 1, 1]],
    ["front", TOWER, [1, 1]],
    ["bottom", TOWER, [2, 1]],
    ["top", [330, 200, 62], [1, 1, 1]],
    ["left", [300, 200, 200], [1]],
    ["back", [900, 300, 300], [1, 1]],
  ])("on the %s of %s never stand over each other, nor outside the drawing", (face, size, weights) => {
    for (const flows of [weights.map(() => 100), weights.map((_, i) => 5 + 30 * i)]) {
      const boxes = labels(face, size, weights, flows);
      boxes.forEach((a, i) => boxes.slice(i + 1).forEach((b) => expect(apart(a, b)).toBe(true)));
      for (const box of boxes) {
        expect(box.x0).toBeGreaterThanOrEqual(-1);
        expect(box.x1).toBeLessThanOrEqual(771);
      }
    }
  });

  it("stand beside an arrow that has the room, and behind its end where it has none", () => {
    const edge = { x: 0, y: 0, w: 400, h: 100 };
    const wide = placed({ face: "back", flow: 100, into: false }, edge, edge, 100);
    expect(wide).toMatchObject({ anchor: "start", textX: 216, from: 104, to: 104 + arrowLength(100, 100) });
    const narrow = { ...edge, w: 207 };
    expect(placed({ face: "back", flow: 100, into: false }, narrow, edge, 100).anchor).toBe("middle");
    expect(placed({ face: "back", flow: 100, into: false }, { ...edge, w: 208 }, edge, 100).anchor).toBe("start");
  });

  it("point in where air enters, and out where it leaves", () => {
    const edge = { x: 0, y: 200, w: 400, h: 100 };
    const ends = (face: Face, into: boolean) => {
      const { from, to } = placed({ face, flow: 50, into }, edge, edge, 100);
      return Math.sign(to - from);
    };
    expect([ends("bottom", true), ends("bottom", false)]).toEqual([-1, 1]);
    expect([ends("top", true), ends("top", false)]).toEqual([1, -1]);
    expect([ends("front", true), ends("front", false)]).toEqual([-1, 1]);
  });
});
