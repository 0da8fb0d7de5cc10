import { describe, expect, it } from "vitest";
import { addChamber, addPath, flipPath } from "./air";
import { insert, leaves, rows, without } from "./elements";
import { emptyBuild } from "./empty";
import { lowerFace, turnHousing } from "./housing";
import { freeId } from "./ids";
import { addLoop, oneRadiatorFewer, secondPump } from "./loops";
import { addParts, putPart, removePart, type NewPart } from "./parts";
import { addSource } from "./sources";

const empty = () => emptyBuild("t", 22);

describe("trees", () => {
  it("lists leaves and rows in flow order with their branch", () => {
    const tree = ["a", { parallel: [["b", "c"], ["d"]] }, "e"];
    expect(leaves(tree)).toEqual(["a", "b", "c", "d", "e"]);
    expect(rows(tree).map((row) => `${row.id}${row.depth}${row.branch}`)).toEqual(["a0", "b11", "c11", "d12", "e0"]);
  });

  it("takes an id out and folds what is left of a branch", () => {
    expect(without(["a", { parallel: [["b"], ["c"]] }], "b")).toEqual(["a", "c"]);
    expect(without([{ parallel: [["b"], ["c", "d"]] }], "c")).toEqual([{ parallel: [["b"], ["d"]] }]);
    expect(without(["a"], "a")).toEqual([]);
  });

  it("puts several parts beside each other or one after the other", () => {
    expect(insert(["a"], ["b", "c"], true)).toEqual(["a", { parallel: [["b"], ["c"]] }]);
    expect(insert(["a", "z"], ["b", "c"], false, 1)).toEqual(["a", "b", "c", "z"]);
  });
});

describe("a build from nothing", () => {
  it("gets chambers, paths, loops and sources with ids of their own", () => {
    const draft = empty();
    const upper = addChamber(draft, "Upper");
    const path = addPath(draft, "Front", "outside", upper, "front");
    const loop = addLoop(draft, "Loop", "pump_strong");
    const [plate] = addParts(draft, { kind: "plate", name: "Plate", class: "plate_processor_good" }, 1);
    const end = { kind: "plate", part: plate! } as const;
    const idea = { name: "Chip", watts: 80, placeClass: "lidded_65", limitC: 90, interfaceClass: "paste_good_lid" };
    addSource(draft, { ...idea, end });
    addSource(draft, { ...idea, end: { kind: "air", zone: upper } });
    expect(draft.zones.map((zone) => zone.id)).toEqual(["outside", "box", "upper"]);
    expect(draft.air_paths[0]).toMatchObject({ id: path, from_zone: "outside", to_zone: "upper" });
    expect(draft.loops[0]!.id).toBe(loop);
    expect(draft.routes.map((route) => route.hops.at(-1)!.kind)).toEqual(["plate", "air"]);
    expect(draft.workloads[0]!.watts).toEqual({ chip: 80, "chip-2": 80 });
    const ids = [...draft.parts.map((part) => part.id), ...draft.zones.map((zone) => zone.id), path, loop];
    expect(new Set(ids).size).toBe(ids.length);
    expect(freeId(draft, "Upper")).toBe("upper-2");
  });

  it("puts fans side by side into a path and a pump before a loop's last element, running from the start", () => {
    const draft = empty();
    const path = addPath(draft, "Front", "outside", "box", "front");
    addLoop(draft, "Loop", "pump_strong");
    draft.loops[0]!.elements = ["first", "last"];
    putPart(draft, { kind: "fan", name: "Fan" } as NewPart, { loop: "", path, beside: true, count: 2 });
    putPart(draft, { kind: "pump", name: "Pump" } as NewPart, {
      loop: draft.loops[0]!.id,
      path: "",
      beside: true,
      count: 1,
    });
    expect(draft.air_paths[0]!.elements.at(-1)).toEqual({ parallel: [["fan"], ["fan-2"]] });
    expect(draft.loops[0]!.elements).toEqual(["first", expect.stringMatching(/^pump/), "last"]);
    const duties = Object.values(draft.workloads[0]!.movers ?? {}).map((told) => told.duty);
    expect(duties.filter((duty) => duty === 0.6)).toHaveLength(2);
    expect(duties.at(-1)).toBe(0.7);
  });

  it("forgets a part everywhere that names it", () => {
    const draft = empty();
    addLoop(draft, "Loop", "pump_strong");
    const [plate] = addParts(draft, { kind: "plate", name: "Plate" }, 1);
    draft.loops[0]!.elements.push(plate!);
    addSource(draft, {
      name: "Chip",
      watts: 80,
      placeClass: "lidded_65",
      limitC: 90,
      interfaceClass: "paste_good_lid",
      end: { kind: "plate", part: plate! },
    });
    removePart(draft, plate!);
    expect(leaves(draft.loops[0]!.elements)).not.toContain(plate);
    expect(draft.routes[0]!.hops.at(-1)).toMatchObject({ kind: "air", zone: "box" });
    removePart(draft, "chip");
    expect(draft.routes).toEqual([]);
    expect(draft.workloads[0]!.watts).toEqual({});
  });
});

describe("changes that are looked at first", () => {
  it("flips a path with its elements and what its parts say of themselves", () => {
    const draft = empty();
    addPath(draft, "Way", "outside", "box", "back");
    draft.parts.push({ id: "fan", kind: "fan", direction: "in" });
    draft.air_paths[0]!.elements.push("fan");
    const before = structuredClone(draft.air_paths[0]!);
    flipPath(draft, draft.air_paths[0]!.id);
    expect(draft.air_paths[0]).toMatchObject({ from_zone: "box", to_zone: "outside" });
    expect(draft.air_paths[0]!.elements).toEqual([...before.elements].reverse());
    expect(draft.parts.at(-1)!["direction"]).toBe("out");
    flipPath(draft, draft.air_paths[0]!.id);
    expect(draft.air_paths[0]).toEqual(before);
  });

  it("turns the housing through its six positions", () => {
    const draft = empty();
    const seen = new Set<string>();
    for (let n = 0; n < 6; n += 1) {
      seen.add(lowerFace(draft));
      turnHousing(draft);
    }
    expect(seen.size).toBe(6);
    expect(lowerFace(draft)).toBe("bottom");
  });

  it("adds a second pump and takes one radiator out, its face left open", () => {
    const draft = empty();
    const id = addLoop(draft, "Loop", "pump_strong");
    secondPump(draft, id);
    const pumps = draft.parts.filter((part) => part.kind === "pump");
    expect(pumps).toHaveLength(2);
    expect(draft.loops[0]!.elements.slice(0, 2)).toEqual(pumps.map((part) => part.id));
    expect(draft.workloads[0]!.movers![pumps[1]!.id]).toEqual({ duty: 0.7 });
    const radiator: NewPart = { kind: "radiator", name: "Radiator", section_mm: 120, sections: 2, thickness_mm: 28 };
    const radiators = addParts(draft, radiator, 2);
    draft.loops[0]!.elements.push(...radiators);
    draft.air_paths.push({ id: "only", from_zone: "box", to_zone: "outside", elements: [radiators[1]!] });
    oneRadiatorFewer(draft, id);
    expect(draft.parts.filter((part) => part.kind === "radiator")).toHaveLength(1);
    expect(draft.parts.find((part) => part.id === leaves(draft.air_paths[0]!.elements)[0])!.kind).toBe("opening");
    oneRadiatorFewer(draft, id);
    expect(draft.parts.filter((part) => part.kind === "radiator")).toHaveLength(1);
  });
});
