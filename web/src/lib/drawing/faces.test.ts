import { describe, expect, it } from "vitest";
import { arrowLength, columns, unfolded } from "./faces";

const SIZES = [undefined, [320, 190, 180], [600, 80, 40], [100, 400, 400], [50, 50, 900]];

describe("the housing unfolded", () => {
  it.each(SIZES)("lays six faces beside each other without overlap, inside its area: %s", (size) => {
    const faces = Object.values(unfolded(size as number[] | undefined, 760, 380));
    for (const face of faces) {
      expect(face.x).toBeGreaterThanOrEqual(-1e-9);
      expect(face.x + face.w).toBeLessThanOrEqual(760 + 1e-6);
      expect(face.y + face.h).toBeLessThanOrEqual(380 + 1e-6);
      expect(Math.min(face.w, face.h)).toBeGreaterThan(20);
    }
    faces.forEach((a, i) =>
      faces.slice(i + 1).forEach((b) => {
        const apart =
          a.x + a.w <= b.x + 1e-6 || b.x + b.w <= a.x + 1e-6 || a.y + a.h <= b.y + 1e-6 || b.y + b.h <= a.y + 1e-6;
        expect(apart).toBe(true);
      }),
    );
  });

  it("keeps the top above and the bottom below the front", () => {
    const { top, front, bottom, left, right, back } = unfolded([300, 200, 100], 800, 400);
    expect([top.x, bottom.x]).toEqual([front.x, front.x]);
    expect(top.y + top.h).toBeLessThan(front.y);
    expect(bottom.y).toBeGreaterThan(front.y + front.h);
    expect([left.x < front.x, right.x > front.x, back.x > right.x]).toEqual([true, true, true]);
  });
});

it("columns fill a face by weight", () => {
  const [a, b] = columns({ x: 0, y: 0, w: 312, h: 50 }, [1, 2]);
  expect(b!.w).toBeGreaterThan(1.9 * a!.w);
  expect(a!.x + a!.w).toBeLessThan(b!.x);
});

it("arrows grow with flow and never vanish", () => {
  expect(arrowLength(0, 50)).toBe(10);
  expect(arrowLength(-50, 50)).toBe(36);
  expect(arrowLength(25, 50)).toBeLessThan(arrowLength(40, 50));
});
