import { describe, expect, it } from "vitest";
import { readyQuestions, unknownsOf } from "./ask";
import { opened } from "./build";

const build = (more: object = {}) =>
  opened({
    format: "krill-build",
    version: 1,
    name: "B",
    brief: { margin_wanted_k: 12 },
    rooms: [{ id: "station", name: "Station", air_c: 24 }],
    parts: [
      { id: "cpu", kind: "source", name: "Processor", places: [{ id: "core", name: "Core", chip_mm2k_w: 12 }] },
      { id: "rad", kind: "radiator", name: "Radiator", section_mm: 120, sections: 2, thickness_mm: 28 },
      { id: "fan", kind: "fan", name: "Fan", class: "fan_120x25", thickness_mm: 25 },
      { id: "pump", kind: "pump" },
      { id: "paste", kind: "interface", class: "paste" },
    ],
    loops: [],
    air_paths: [],
    routes: [],
    workloads: [
      {
        id: "both",
        name: "Both",
        watts: { rest: 30, cpu: 125 },
        sound_ceiling_dba: 36,
        movers: { fan: { duty: 0.5 }, pump: { speed_rpm: 2400 } },
      },
    ],
    ...more,
  });
const byClass = (id: string | null | undefined) => (id === "paste" ? ["resistance_mm2k_w", "colour"] : []);
const core = { address: "core", name: "Core" };

describe("what may be the unknown", () => {
  const values = unknownsOf(build(), "both", byClass).map((choice) => choice.value);
  it("holds duties that are told, the room, watts, stated figures and those of a class", () => {
    for (const value of [
      "movers/fans",
      "movers/fan",
      "station/air_c",
      "both/watts/cpu",
      "core/chip_mm2k_w",
      "rad/sections",
      "rad/thickness_mm",
      "paste/resistance_mm2k_w",
    ])
      expect(values).toContain(value);
  });
  it("leaves out speeds that are not duties, a fan's depth, a radiator's section and what is no figure", () => {
    for (const value of ["movers/pump", "fan/thickness_mm", "rad/section_mm", "paste/colour"])
      expect(values).not.toContain(value);
    expect(new Set(values).size).toBe(values.length);
  });
  it("offers no fans where none is told a duty", () => {
    const still = build({ workloads: [{ id: "both", watts: {}, movers: { fan: { off: true } } }] });
    expect(unknownsOf(still, "both", byClass)[0]?.value).toBe("station/air_c");
  });
});

describe("questions that are asked most", () => {
  it("are about the ceiling, the tightest part, its room, the hottest source and the radiator", () => {
    const found = readyQuestions(build(), "both", core);
    expect(found.map((question) => question.address)).toEqual([
      "movers/fans",
      "station/air_c",
      "movers/fans",
      "both/watts/cpu",
      "rad/sections",
    ]);
    expect(found[0]).toMatchObject({ goal: "level", wanted: 36, says: "fan speed for 36 dBA" });
    expect(found[1]).toMatchObject({ goal: "margin", of: "core", wanted: 12 });
    expect(found[3]?.says).toBe("watts of Processor with which Core keeps 12 K");
  });
  it("turn to fins where there is no radiator, and to nothing where nothing is known yet", () => {
    const fanless = build({
      parts: [{ id: "back", kind: "sink", name: "Back" }],
      workloads: [{ id: "full", watts: {}, movers: {} }],
    });
    expect(readyQuestions(fanless, "full", core).map((question) => question.address)).toEqual([
      "station/air_c",
      "back/fin_height_mm",
    ]);
    expect(readyQuestions(fanless, "full", undefined)).toEqual([]);
  });
});
