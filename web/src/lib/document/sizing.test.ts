import { fieldOf } from "./addresses";
import { describe, expect, it } from "vitest";
import { opened } from "./build";
import { makeEdits } from "./edits";
import { everything, found } from "./find";
import { addReadyMade, readyMade } from "./ready";
import { axesOf, demandsOf, duties, firstAxes, numericAxes, questionOf, sizeOf, steps } from "./vary";

const CLASSES = [
  { id: "fan_120x15", kind: "fan", name: "120 x 15 mm fan" },
  { id: "fan_120x25", kind: "fan", name: "120 x 25 mm fan" },
  { id: "fan_140x25", kind: "fan", name: "140 x 25 mm fan" },
  { id: "pump_small", kind: "pump", name: "small pump" },
];

const build = () =>
  opened({
    format: "krill-build",
    version: 1,
    name: "B",
    brief: { margin_wanted_k: 12 },
    rooms: [{ id: "room", air_c: 24 }],
    parts: [
      { id: "cpu", kind: "source", name: "Processor", places: [{ id: "cpu-core", name: "Core" }] },
      { id: "rad", kind: "radiator", name: "Radiator", section_mm: 120, sections: 2, thickness_mm: 28 },
      { id: "fan", kind: "fan", class: "fan_120x25" },
      { id: "pump", kind: "pump" },
      { id: "tube", kind: "tube", name: "Tube", length_m: { value: 2, from: "estimate" } },
    ],
    loops: [],
    air_paths: [{ id: "out", from_zone: "box", to_zone: "room", elements: ["fan", "rad"] }],
    routes: [],
    workloads: [
      { id: "both", name: "Both", watts: { cpu: 125 }, sound_ceiling_dba: 36, movers: { fan: { duty: 0.5 } } },
    ],
  });

describe("what may vary", () => {
  it("offers sizes, fans of one width, speeds and power limits, the deciding ones first", () => {
    const axes = axesOf(build(), "both", CLASSES);
    const first = firstAxes(axes);
    expect(first.map((axis) => axis.address)).toEqual([
      "rad/sections",
      "rad/thickness_mm",
      "fans/class",
      "movers/fans",
      "movers/pumps",
    ]);
    expect(first[2]!.options.map((option) => option.value)).toEqual(["fan_120x15", "fan_120x25"]);
    expect(sizeOf(first)).toBe(6 * 4 * 2 * 15 * 3);
    expect(axes.map((axis) => axis.address)).toContain("both/watts/cpu");
  });
  it("demands what the brief demands and sends addresses without the screen's names", () => {
    const demands = demandsOf(build(), "both");
    expect(demands.margins).toEqual([{ workload: "both", place: null, at_least_k: 12 }]);
    expect(demands.sounds).toEqual([{ workload: "both", at_most_dba: 36 }]);
    const asked = questionOf(firstAxes(axesOf(build(), "both", CLASSES)), demands, 28, ["margin"]);
    expect(asked.vary[0]).not.toHaveProperty("name");
    expect(asked.room_c).toBe(28);
  });
  it("steps evenly and rounds as people type", () => {
    expect(steps(0.3, 1, 15)).toHaveLength(15);
    expect(steps(5, 5, 3)).toEqual([5]);
    expect(duties(0.3, 1, 3).map((option) => option.label)).toEqual(["30 %", "65 %", "100 %"]);
  });
  it("maps over numbers with their units and ends", () => {
    const found = Object.fromEntries(numericAxes(build(), "both").map((axis) => [axis.address, axis]));
    expect(found["rad/sections"]).toMatchObject({ low: 1, high: 6, whole: true });
    expect(found["tube/length_m"]).toMatchObject({ unit: "m", low: 1, high: 4 });
    expect(found["both/watts/cpu"]).toMatchObject({ unit: "W", low: 50, high: 200 });
  });
});

describe("edits as the server states them", () => {
  it("add, exchange and take out parts, and set fields however deep", () => {
    const draft = build();
    makeEdits(draft, [
      { target: "parts", field: "+", value: { id: "fan-2", kind: "fan" } },
      { target: "both", field: "movers/fan-2", value: { duty: 0.5 } },
      { target: "rad", field: "sections", value: 3 },
      { target: "parts", field: "=", value: { id: "pump", kind: "pump", class: "pump_small" } },
      { target: "housing", field: "gravity", value: [0, -1, 0] },
      { target: "nobody", field: "sections", value: 3 },
    ]);
    expect(draft.parts.map((part) => part.id)).toContain("fan-2");
    expect(draft.workloads[0]!.movers!["fan-2"]).toEqual({ duty: 0.5 });
    expect(
      fieldOf(
        draft.parts.find((part) => part.id === "rad"),
        "sections",
      ),
    ).toBe(3);
    expect(draft.parts.find((part) => part.id === "pump")!.class).toBe("pump_small");
    expect(draft.housing?.gravity).toEqual([0, -1, 0]);
    makeEdits(draft, [{ target: "parts", field: "-", value: "fan-2" }]);
    expect(draft.parts.map((part) => part.id)).not.toContain("fan-2");
    expect(draft.workloads[0]!.movers).toEqual({ fan: { duty: 0.5 } });
  });
});

describe("the finder", () => {
  it("finds parts before figures, and any figure with its value and unit", () => {
    const all = everything(build());
    expect(found(all, "tube", 9)[0]).toMatchObject({ id: "tube", sort: "thing" });
    expect(found(all, "tube length", 9)).toEqual([{ id: "tube", label: "Tube: length", says: "2 m", sort: "figure" }]);
    expect(found(all, "processor watts", 9)[0]).toMatchObject({ id: "cpu", says: "125 W" });
    expect(found(all, "rad sections", 9)[0]!.says).toBe("2");
    expect(found(all, "both", 9)[0]).toMatchObject({ id: "both", sort: "workload" });
    expect(found(all, "no such thing", 9)).toEqual([]);
  });
});

describe("something ready-made", () => {
  it("stores what is stated and leaves the rest unknown", () => {
    const draft = build();
    const id = addReadyMade(draft, { name: "Closed loop, 240 mm", price: 120, over_room_k: { "cpu-core": 41 } });
    expect(readyMade(draft)).toEqual([
      { id, name: "Closed loop, 240 mm", price: 120, over_room_k: { "cpu-core": 41 } },
    ]);
    expect(readyMade(null)).toEqual([]);
  });
});
