import { describe, expect, it } from "vitest";
import { emptyBuild } from "./empty";
import { fallOn, FACES, lowerFace, turnHousing } from "./housing";

const lying = (gravity: [number, number, number]) => ({ ...emptyBuild("Heron", 25), housing: { gravity } });
const down = { x: 0, y: 1 };

describe("the way things fall on the unfolded faces", () => {
  it("is down on the four sides of a housing that stands, and none above and below", () => {
    const standing = lying([0, 0, -1]);
    for (const face of ["front", "back", "left", "right"] as const) expect(fallOn(standing, face)).toMatchObject(down);
    expect([fallOn(standing, "top"), fallOn(standing, "bottom")]).toEqual([null, null]);
  });

  it("runs towards the lower face over each edge that two faces share", () => {
    const onItsFront = lying([0, -1, 0]);
    expect(lowerFace(onItsFront)).toBe("front");
    // the front lies in the middle: top above it, bottom below it, left and right beside it
    expect(fallOn(onItsFront, "top")).toMatchObject({ x: 0, y: 1 });
    expect(fallOn(onItsFront, "bottom")).toMatchObject({ y: -1 });
    expect(fallOn(onItsFront, "right")).toMatchObject({ x: -1 });
    expect(fallOn(onItsFront, "left")).toMatchObject({ x: 1 });
    expect(fallOn(onItsFront, "front")).toBeNull();
    const onItsRight = lying([1, 0, 0]);
    expect(lowerFace(onItsRight)).toBe("right");
    expect(fallOn(onItsRight, "front")).toMatchObject({ x: 1 });
    expect(fallOn(onItsRight, "back")).toMatchObject({ x: -1 });
  });

  it("leans with a housing that leans", () => {
    const found = fallOn(lying([0, -1, -1]), "right")!;
    expect(found.x).toBeCloseTo(-Math.SQRT1_2);
    expect(found.y).toBeCloseTo(Math.SQRT1_2);
    expect(fallOn(lying([0, -0.05, -1]), "bottom")).toBeNull();
    expect(fallOn(lying([0, -0.2, -1]), "bottom")).toMatchObject({ y: -1 });
  });

  it("turns through all six faces and comes back", () => {
    const draft = emptyBuild("Heron", 25);
    const seen = FACES.map(() => {
      turnHousing(draft);
      return lowerFace(draft);
    });
    expect(new Set(seen).size).toBe(6);
    expect(lowerFace(draft)).toBe("bottom");
  });
});
