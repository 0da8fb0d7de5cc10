import { describe, expect, it } from "vitest";
import type { Part } from "./build";
import { emptyBuild } from "./empty";
import { pastedRows, rowsOfPart, storePoints, tableOf, wrongWith } from "./points";

const radiator = tableOf("radiator")!;
const fan = tableOf("fan")!;

describe("measured points", () => {
  it("are pasted from a sheet, with a heading and decimal commas", () => {
    expect(pastedRows("flow\tW/K\n50\t8,5\n\n100\t12.1\t4", 4)).toEqual([
      [50, 8.5, null, null],
      [100, 12.1, 4, null],
    ]);
    expect(pastedRows("0; 40\n30 20", 2)).toEqual([
      [0, 40],
      [30, 20],
    ]);
  });

  it("say what is wrong with them", () => {
    expect(wrongWith([[50, 8, null, null]], radiator)).toBe("");
    expect(wrongWith([[50, null, null, null]], radiator)).toBe("row 1: air flow and W/K are needed");
    expect(
      wrongWith(
        [
          [50, 8, 4, 10],
          [50, 9, 4, 12],
        ],
        radiator,
      ),
    ).toContain("rise");
    expect(wrongWith([[0, 20]], fan)).toContain("two points");
    expect(wrongWith([], fan)).toBe("");
  });

  it("are stored as the document has them, and read back", () => {
    const draft = emptyBuild("t", 22);
    draft.parts.push({ id: "r", kind: "radiator" } as Part, { id: "f", kind: "fan" } as Part);
    const rows = [
      [50, 8, null, 12],
      [100, 12, 4, null],
    ];
    storePoints(draft, "r", radiator, rows);
    expect(draft.parts[0]).toMatchObject({
      points: [
        { airflow_m3_h: 50, w_k: 8, pressure_pa: 12 },
        { airflow_m3_h: 100, w_k: 12, flow_l_min: 4 },
      ],
    });
    expect(rowsOfPart(draft.parts[0]!, radiator)).toEqual(rows);
    storePoints(draft, "f", fan, [
      [0, 20],
      [90, 0],
    ]);
    expect(draft.parts[1]).toMatchObject({
      curve: [
        [0, 20],
        [90, 0],
      ],
    });
    storePoints(draft, "f", fan, []);
    expect(draft.parts[1]).not.toHaveProperty("curve");
  });
});
