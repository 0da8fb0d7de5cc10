import { describe, expect, it } from "vitest";
import { opened, placeOf, type BuildDocument } from "./build";
import { copyPart, removePart, replacePart } from "./parts";
import { addLimit, addPlace, removePlace } from "./places";

const place = (id: string, share: number) => ({
  id,
  temperature_kind: "chip_sensor" as const,
  power_share: share,
  limits: [{ kind: "throttle" as const, at_c: 88 }],
});

function build(): BuildDocument {
  return opened({
    format: "krill-build",
    version: 1,
    name: "card",
    rooms: [{ id: "room", air_c: 24 }],
    parts: [
      {
        id: "card",
        kind: "source",
        name: "Card",
        power_kind: "board",
        places: [place("chip", 0.75), place("memory", 0.15)],
      },
      { id: "paste", kind: "interface", name: "Paste", class: "paste_ordinary_chip" },
      { id: "cooler", kind: "cooler", name: "Cooler", class: "cooler_graphics_low", face: "bottom", feed: "header" },
      { id: "fan-a", kind: "fan", name: "Fan 1", class: "fan_60x15" },
      { id: "fan-b", kind: "fan", name: "Fan 2", class: "fan_60x15" },
    ],
    feeds: [{ id: "header", kind: "header" }],
    zones: [
      { id: "out", kind: "outside", room: "room" },
      { id: "box", kind: "box" },
    ],
    air_paths: [
      { id: "path", from_zone: "out", to_zone: "box", elements: [{ parallel: [["fan-a"], ["fan-b"]] }, "cooler"] },
    ],
    routes: [
      {
        id: "route-chip",
        place: "chip",
        hops: [
          { id: "chip-paste", kind: "interface", part: "paste" },
          { id: "chip-cooler", kind: "stream", part: "cooler" },
        ],
      },
      { id: "route-memory", place: "memory", hops: [{ id: "memory-air", kind: "air", zone: "box" }] },
    ],
    workloads: [
      {
        id: "full",
        watts: { card: 115 },
        movers: { "fan-a": { duty: 0.7 } },
        burst: { card: { power_w: 150, hold_s: 10 } },
      },
    ],
  } as never);
}

describe("a copied source", () => {
  it("has its watts, places, ways and layers of its own, and ends in the same cooler", () => {
    const draft = build();
    expect(copyPart(draft, "card")).toBe("card-2");
    const copy = draft.parts[1]!;
    expect([copy.id, copy.name]).toEqual(["card-2", "Card 2"]);
    const places = "places" in copy ? copy.places.map((p) => p.id) : [];
    expect(places).toHaveLength(2);
    expect(new Set([...places, "chip", "memory"]).size).toBe(4);
    const ways = draft.routes.filter((route) => places.includes(route.place));
    expect(ways.map((way) => way.hops.map((hop) => hop.part ?? hop.zone))).toEqual([["paste-2", "cooler"], ["box"]]);
    expect(draft.workloads[0]!.watts).toEqual({ card: 115, "card-2": 115 });
    expect(draft.workloads[0]!.burst!["card-2"]).toEqual({ power_w: 150, hold_s: 10 });
    const ids = draft.routes.flatMap((route) => [route.id, ...route.hops.map((hop) => hop.id)]);
    expect(new Set(ids).size).toBe(ids.length);
  });
});

describe("a source that is taken out", () => {
  it("takes along what lies on its way alone, and leaves what others end in", () => {
    const draft = build();
    removePart(draft, copyPart(draft, "card")!);
    expect(draft).toEqual(build());
    removePart(draft, "card");
    expect(draft.parts.map((part) => part.id)).toEqual(["cooler", "fan-a", "fan-b"]);
    expect(draft.routes).toEqual([]);
  });
  it("leaves a layer that another way leads through", () => {
    const draft = build();
    draft.parts.push({ ...structuredClone(draft.parts[0]!), id: "other", places: [place("other-chip", 1)] } as never);
    draft.routes.push({
      id: "r",
      place: "other-chip",
      hops: [
        { id: "h", kind: "interface", part: "paste" },
        { id: "e", kind: "stream", part: "cooler" },
      ],
    });
    removePart(draft, "card");
    expect(draft.parts.map((part) => part.id)).toContain("paste");
  });
});

describe("a copied part", () => {
  it("stands beside one that is a branch of its own, told the same", () => {
    const draft = build();
    const id = copyPart(draft, "fan-a")!;
    expect(draft.air_paths[0]!.elements[0]).toEqual({ parallel: [["fan-a"], [id], ["fan-b"]] });
    expect(draft.workloads[0]!.movers![id]).toEqual({ duty: 0.7 });
    expect(draft.parts.find((part) => part.id === id)!.name).toBe("Fan 3");
  });
  it("stands behind one in a row", () => {
    const draft = build();
    const id = copyPart(draft, "cooler")!;
    expect(draft.air_paths[0]!.elements.slice(1)).toEqual(["cooler", id]);
  });
  it("that is not there is none", () => expect(copyPart(build(), "ghost")).toBeUndefined());
});

describe("a replaced part", () => {
  it("is another where the old one stood, under its id, fed as before", () => {
    const draft = build();
    replacePart(draft, "cooler", { kind: "cooler", name: "Large", class: "cooler_graphics_150" } as never);
    expect(draft.parts.find((part) => part.id === "cooler")).toEqual({
      id: "cooler",
      kind: "cooler",
      name: "Large",
      class: "cooler_graphics_150",
      face: "bottom",
      feed: "header",
    });
  });
  it("stays what it is where the other is of another kind", () => {
    const draft = build();
    replacePart(draft, "cooler", { kind: "fan", name: "Fan", class: "fan_60x15" } as never);
    expect(draft.parts.find((part) => part.id === "cooler")!.kind).toBe("cooler");
  });
});

describe("places of a source", () => {
  it("are added with a way to the box's air and taken out with it; one stays", () => {
    const draft = build();
    const id = addPlace(draft, "card")!;
    expect(placeOf(draft, id)).toMatchObject({ name: "Card, place 3", power_share: 0.1, limits: [] });
    expect(draft.routes.find((route) => route.place === id)!.hops[0]).toMatchObject({ kind: "air", zone: "box" });
    for (const one of ["chip", "memory", id]) removePlace(draft, one);
    expect(draft.parts.flatMap((part) => ("places" in part ? part.places.map((p) => p.id) : []))).toEqual([id]);
    expect(draft.routes.map((route) => route.place)).toEqual([id]);
  });
  it("of what is no source are none", () => expect(addPlace(build(), "cooler")).toBeUndefined());
  it("get a limit of a kind that they have none of yet", () => {
    const draft = build();
    const own = placeOf(draft, "chip")!;
    addLimit(own);
    addLimit(own);
    expect(own.limits!.map((limit) => limit.kind)).toEqual(["throttle", "own", "touch"]);
  });
});
