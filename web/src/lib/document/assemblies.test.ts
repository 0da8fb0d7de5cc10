import { describe, expect, it } from "vitest";
import { missingFor, putAssembly, type Assembly } from "./assemblies";
import { leaves } from "./elements";
import { emptyBuild } from "./empty";

const card: Assembly = {
  id: "card",
  name: "Card",
  says: "",
  parts: [
    { id: "graphics", kind: "source", places: [{ id: "graphics-chip", power_kind: "graphics" }] },
    { id: "cooler", kind: "cooler" },
    { id: "fan-1", kind: "fan" },
  ],
  zones: [{ id: "off-card", kind: "box" }],
  air_paths: [
    { id: "air-card", from_zone: "box", to_zone: "off-card", elements: [{ parallel: [["fan-1"]] }, "cooler"] },
  ],
  loops: [],
  into_loop: [],
  routes: [{ id: "route", place: "graphics-chip", hops: [{ id: "hop", kind: "stream", part: "cooler" }] }],
  movers: { "fan-1": { curve: { sensor: "graphics-chip", points: [[50, 0.4]] } } },
  watts: { graphics: { value: 150 } },
};

const radiator: Assembly = {
  ...card,
  id: "radiator",
  parts: [{ id: "radiator", kind: "radiator" }],
  zones: [{ id: "station", kind: "outside", room: "room" }],
  air_paths: [{ id: "air-station", from_zone: "station", to_zone: "station", elements: ["radiator"] }],
  into_loop: ["radiator"],
  routes: [],
  movers: {},
  watts: {},
};

describe("an assembly", () => {
  it("is put in twice, each with ids, ways, movers and watts of its own", () => {
    const draft = emptyBuild("t", 22);
    putAssembly(draft, card);
    putAssembly(draft, card);
    const ids = [...draft.parts, ...draft.zones, ...draft.air_paths, ...draft.routes].map((item) => item.id);
    expect(new Set(ids).size).toBe(ids.length);
    const [first, second] = draft.air_paths;
    expect(first).toMatchObject({ from_zone: "box", to_zone: "off-card" });
    expect(second).toMatchObject({ from_zone: "box", to_zone: "off-card-2" });
    expect(leaves(second!.elements)).toEqual(["fan-1-2", "cooler-2"]);
    expect(draft.routes[1]).toMatchObject({ place: "graphics-chip-2", hops: [{ part: "cooler-2" }] });
    const [full] = draft.workloads;
    expect(full!.watts).toEqual({ graphics: { value: 150 }, "graphics-2": { value: 150 } });
    expect(full!.movers!["fan-1-2"]).toMatchObject({ curve: { sensor: "graphics-chip-2" } });
  });

  it("changes names of things alone, not words that happen to be the same", () => {
    const draft = emptyBuild("t", 22);
    putAssembly(draft, card);
    putAssembly(draft, card);
    expect(draft.parts[3]).toMatchObject({ id: "graphics-2", places: [{ power_kind: "graphics" }] });
    expect(draft.parts[4]).toMatchObject({ id: "cooler-2", kind: "cooler" });
  });

  it("goes into the loop that is there, before its last element, or brings one", () => {
    const draft = emptyBuild("t", 22);
    putAssembly(draft, radiator);
    expect(draft.loops).toHaveLength(1);
    expect(leaves(draft.loops[0]!.elements).at(-2)).toBe("radiator");
    putAssembly(draft, radiator);
    expect(draft.loops).toHaveLength(1);
    expect(leaves(draft.loops[0]!.elements).slice(-3, -1)).toEqual(["radiator", "radiator-2"]);
    expect(draft.zones.at(-1)).toMatchObject({ id: "station-2", room: "room" });
  });

  it("that breathes a box needs one", () => {
    const draft = emptyBuild("t", 22);
    expect(missingFor(draft, card)).toBe("");
    draft.zones = draft.zones.filter((zone) => zone.kind !== "box");
    expect(missingFor(draft, card)).not.toBe("");
    expect(missingFor(draft, radiator)).toBe("");
  });
});
