import { describe, expect, it } from "vitest";
import { addressOf, figureOf, isDuty, roomAddress, setAt, setValueAt } from "./addresses";
import { opened } from "./build";
import { everything, found } from "./find";
import { addReadyMade, readyMade } from "./ready";
import { demandsOf, questionOf, rangeOf, sizeOf, steps, swapsOf, withWorkload } from "./vary";

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

const duty = { address: "movers/fans", name: "All fans: duty", unit: "", range: true, first: true, options: [] };
const length = { ...duty, address: "tube/length_m", name: "Tube: length", unit: "m" };

describe("a question", () => {
  it("demands what the brief demands and sends addresses without the screen's names", () => {
    const demands = demandsOf(build(), "both");
    expect(demands.margins).toEqual([{ workload: "both", place: null, at_least_k: 12 }]);
    expect(demands.sounds).toEqual([{ workload: "both", at_most_dba: 36 }]);
    const axes = [{ ...duty, options: [{ value: 0.5 }] }];
    const asked = questionOf(axes, demands, 28, ["margin"]);
    expect(asked.vary).toEqual([{ address: "movers/fans", options: [{ value: 0.5 }] }]);
    expect(asked.room_c).toBe(28);
  });
  it("steps evenly and rounds as people type", () => {
    expect(steps(0.3, 1, 15)).toHaveLength(15);
    expect(steps(5, 5, 3)).toEqual([5]);
    expect(rangeOf(duty, 0.3, 1, 3).map((option) => option.label)).toEqual(["30 %", "65 %", "100 %"]);
    expect(rangeOf(length, 1, 2, 2)).toEqual([
      { value: 1, label: "1 m" },
      { value: 2, label: "2 m" },
    ]);
  });
  it("makes as many candidates as its options multiply to, none without an axis", () => {
    const options = [{ value: 1 }, { value: 2 }, { value: 3 }];
    expect(
      sizeOf([
        { ...duty, options },
        { ...length, options: options.slice(1) },
      ]),
    ).toBe(6);
    expect(sizeOf([])).toBe(0);
  });
});

describe("addresses", () => {
  it("are taken apart once, a table's key with whatever stands behind it", () => {
    expect(addressOf("tube/length_m")).toEqual({ owner: "tube", field: "length_m", key: undefined });
    expect(addressOf("both/watts/cpu")).toEqual({ owner: "both", field: "watts", key: "cpu" });
    expect(roomAddress(build())).toBe("room/air_c");
    expect([isDuty("movers/fans"), isDuty("fan/duty")]).toEqual([true, false]);
  });
  it("are written through: figures, tables on the way, nothing where nobody is", () => {
    const draft = build();
    setValueAt(draft, "both/watts/cpu", 80);
    setValueAt(draft, "tube/length_m", 3);
    setAt(draft, "both/movers/pump", { duty: 0.5 });
    setAt(draft, "nobody/length_m", 3);
    expect(draft.workloads[0]!.watts).toEqual({ cpu: 80 });
    expect(draft.workloads[0]!.movers).toEqual({ fan: { duty: 0.5 }, pump: { duty: 0.5 } });
    expect(figureOf(draft.parts.at(-1), "length_m")).toBe(3);
  });
  it("keep what is known of a figure that somebody measured", () => {
    const draft = build();
    setAt(draft, "tube/length_m", { value: 2, plus_minus: 0.1, from: "measured" });
    setValueAt(draft, "tube/length_m", 2.5);
    expect(figureOf(draft.parts.at(-1), "length_m")).toEqual({ value: 2.5, plus_minus: 0.1, from: "measured" });
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

describe("parts of one's own shelf", () => {
  it("are an axis of the part they could replace, beside the part as it is", () => {
    const own = [{ kind: "radiator", name: "Thick", part: { kind: "radiator", thickness_mm: 60 } }];
    const [swap, ...more] = swapsOf(build().parts, own);
    expect(more).toEqual([]);
    expect(swap).toMatchObject({ address: "rad/part", name: "Radiator: from the shelf" });
    expect(swap!.options.map((option) => option.label)).toEqual(["Radiator, as it is", "Thick"]);
    expect(swap!.options[1]!.value).toEqual({ kind: "radiator", thickness_mm: 60, name: "Thick" });
    expect(swapsOf(build().parts, [])).toEqual([]);
  });
});

describe("demands", () => {
  it("of a further workload keep the margin of the first and its own sound limit", () => {
    const first = { margins: [{ workload: "both", at_least_k: 5 }], sounds: [] };
    const idle = { id: "idle", watts: {}, sound_ceiling_dba: 26 } as never;
    expect(withWorkload(first, idle).margins.at(-1)).toEqual({ workload: "idle", place: null, at_least_k: 5 });
    expect(withWorkload(first, idle).sounds).toEqual([{ workload: "idle", at_most_dba: 26 }]);
    const free = { id: "free", watts: {}, sound_ceiling_dba: null } as never;
    expect(withWorkload({ margins: [], sounds: [] }, free)).toEqual({
      margins: [{ workload: "free", place: null, at_least_k: 3 }],
      sounds: [],
    });
  });
});
