import { describe, expect, it } from "vitest";
import { removePart } from "./parts";
import { opened, type BuildDocument } from "./build";
import { addPipeGroup, addSideWay, bondsOf, endRoute, insertHop, removeHop, toggleBond } from "./ways";

const build = (): BuildDocument =>
  opened({
    format: "krill-build",
    version: 1,
    name: "box",
    rooms: [{ id: "room", air_c: 20 }],
    zones: [
      { id: "outside", kind: "outside", room: "room" },
      { id: "box", kind: "box" },
    ],
    parts: [
      { id: "chip", kind: "source", places: [{ id: "chip-place", temperature_kind: "chip_sensor" }] },
      { id: "joint", kind: "interface" },
      { id: "back", kind: "sink" },
      { id: "side", kind: "panel" },
    ],
    loops: [],
    air_paths: [],
    routes: [
      {
        id: "route",
        place: "chip-place",
        hops: [
          { id: "h1", kind: "interface", part: "joint" },
          { id: "h2", kind: "body", part: "back" },
        ],
      },
    ],
    workloads: [{ id: "full", watts: { chip: 20 } }],
  });
const hops = (draft: BuildDocument) => draft.routes[0]!.hops.map((hop) => hop.kind);

describe("ways of heat", () => {
  it("takes pipes and blocks in before the end, and out again with their parts", () => {
    const draft = build();
    insertHop(draft, "route", 1, "a block");
    insertHop(draft, "route", 2, "heat pipes");
    expect(hops(draft)).toEqual(["interface", "spreader", "pipes", "body"]);
    expect(draft.parts.some((part) => part.kind === "heat_pipe")).toBe(true);
    removeHop(draft, "route", draft.routes[0]!.hops[2]!.id);
    expect(draft.parts.some((part) => part.kind === "heat_pipe")).toBe(false);
    expect(hops(draft)).toEqual(["interface", "spreader", "body"]);
  });

  it("puts a second group of pipes into the same hop", () => {
    const draft = build();
    insertHop(draft, "route", 1, "heat pipes");
    const first = draft.routes[0]!.hops[1]!.parts![0]!;
    const second = addPipeGroup(draft, first);
    expect(draft.routes[0]!.hops[1]!.parts).toEqual([first, second]);
    expect(addPipeGroup(draft, "back")).toBeNull();
  });

  it("keeps the end of a route, and moves it where it is told", () => {
    const draft = build();
    removeHop(draft, "route", "h2");
    expect(hops(draft)).toEqual(["interface", "body"]);
    endRoute(draft, "route", "air:box");
    expect(draft.routes[0]!.hops[1]).toEqual({ id: "h2", kind: "air", zone: "box" });
  });

  it("adds a way through the board into the box", () => {
    const draft = build();
    addSideWay(draft, "chip-place");
    expect(draft.routes[1]).toMatchObject({ place: "chip-place", hops: [{ kind: "air", zone: "box" }] });
  });

  it("joins and parts two bodies, and forgets the seam of a body that goes", () => {
    const draft = build();
    toggleBond(draft, "back", "side", 200);
    expect(bondsOf(draft)).toHaveLength(1);
    toggleBond(draft, "side", "back", 200);
    expect(bondsOf(draft)).toHaveLength(0);
    toggleBond(draft, "back", "side", 200);
    removePart(draft, "side");
    expect(bondsOf(draft)).toHaveLength(0);
  });

  it("lets a route end in air when its body is taken out", () => {
    const draft = build();
    insertHop(draft, "route", 1, "heat pipes");
    removePart(draft, "back");
    expect(draft.routes[0]!.hops.at(-1)!.kind).toBe("air");
  });
});
