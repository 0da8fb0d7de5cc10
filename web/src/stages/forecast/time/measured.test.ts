import { describe, expect, it } from "vitest";
import type { Schemas } from "$lib/api/client";
import { measuredOf } from "./measured";

const channel = (role: string, unit = "°C") => ({
  name: role,
  unit,
  role,
  minutes: [0, 5, 10, 65, 70],
  values: [20, 21, null, 60, 30],
});
const series = (...channels: ReturnType<typeof channel>[]) => ({ channels }) as Schemas["SeriesOut"];

describe("a run over the forecast", () => {
  it("counts minutes from its load and leaves out gaps and what came after", () => {
    expect(measuredOf(series(channel("drive-place/temperature")), 5, 65)).toEqual([
      {
        address: "drive-place",
        points: [
          [-5, 20],
          [0, 21],
          [60, 60],
        ],
      },
    ]);
  });
  it("knows places, coolant and air, and nothing that is no temperature", () => {
    const found = measuredOf(
      series(
        channel("loop-a/coolant_hot"),
        channel("box/air"),
        channel("loop-a/coolant_cold"),
        channel("processor/power", "W"),
        channel("core/temperature", "K"),
      ),
      5,
      65,
    );
    expect(found.map((one) => one.address)).toEqual(["loop-a", "box"]);
  });
  it("shows no more than ten minutes before the load, and no single point", () => {
    expect(measuredOf(series(channel("drive-place/temperature")), 66, 70)).toEqual([
      {
        address: "drive-place",
        points: [
          [-1, 60],
          [4, 30],
        ],
      },
    ]);
    expect(measuredOf(series(channel("drive-place/temperature")), 79, 69)).toEqual([]);
  });
});
