import { describe, expect, it } from "vitest";
import type { Schemas } from "$lib/api/client";
import { housingBox, spread, stands } from "./shape";

const picture: Schemas["Picture"] = {
  depth_mm: 400,
  height_mm: 200,
  wood: false,
  mouths: [
    { face: "back", way: "either", fan: false, sections: 0 },
    { face: "front", way: "in", fan: true, sections: 0 },
    { face: "back", way: "out", fan: true, sections: 0 },
    { face: "back", way: "either", fan: false, sections: 0 },
  ],
  cooled: ["tower"],
  loop: false,
  duct: false,
  station: 0,
  sink_faces: [],
};

describe("a picture of a shape", () => {
  it("keeps the proportions of the housing, within what can be told apart", () => {
    const box = housingBox(picture, 120, 70, 10);
    expect(box.width / box.height).toBeCloseTo(2);
    const flat = housingBox({ ...picture, height_mm: 20 }, 120, 70, 10);
    expect(flat.width / flat.height).toBeCloseTo(2.4);
    expect(flat.x).toBeCloseTo(10);
  });

  it("draws mouths on their edges, fans above openings, alike ones once", () => {
    const box = { x: 10, y: 10, width: 100, height: 60 };
    const found = stands(picture, box);
    expect(found).toHaveLength(3);
    const back = found.filter((stand) => stand.x === 110);
    expect(back.map((stand) => [stand.mouth.fan, stand.y])).toEqual([
      [true, 30],
      [false, 50],
    ]);
    expect(found.find((stand) => stand.mouth.face === "front")).toMatchObject({ x: 10, y: 40, out: [-1, 0] });
  });

  it("spreads what stands on the board evenly", () => {
    expect(spread(2, { x: 0, y: 0, width: 100, height: 50 })).toEqual([30.5, 69.5]);
  });
});
