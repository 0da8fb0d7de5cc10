import { describe, expect, it } from "vitest";
import { opened, type BuildDocument } from "./build";
import { emptyBuild } from "./empty";
import { insulate, reachedFrom, takeSheet } from "./fit";
import { addHolding, addNearHeat, changeHolding, GLUED } from "./holding";
import { addLead, addPoint, blockAir, changeEnd, changeLead, movePoint, removeLead, takePoint } from "./leads";
import { removePart } from "./parts";

function build(): BuildDocument {
  const draft = opened(emptyBuild("Leads", 25));
  draft.zones = [{ id: "box", kind: "box" }];
  draft.parts = [
    { id: "supply", kind: "supply", places: [], outline: { position_mm: [100, 50, 20] } },
    { id: "card", kind: "fan", class: "fan_120x25", outline: { position_mm: [200.04, 50, 80] } },
    { id: "tank", kind: "reservoir", bore_mm: 10 },
    { id: "tube", kind: "tube", bore_mm: 10, length_m: 1 },
    { id: "across", kind: "obstacle", area_cm2: 100, blocked_share: null, leads: [] },
  ] as unknown as BuildDocument["parts"];
  draft.loops = [{ id: "loop", elements: ["tank", "tube"], fill: "tank", drain: "tank" }];
  return draft;
}

describe("leads", () => {
  it("runs straight between parts that have a place, and gets corners half way", () => {
    const draft = build();
    const id = addLead(draft, "supply", "card", { class: "feed_8" });
    const lead = () => draft.leads.find((one) => one.id === id)!;
    expect(lead().points_mm).toEqual([
      [100, 50, 20],
      [200, 50, 80],
    ]);
    addPoint(draft, id, 0);
    expect(lead().points_mm?.[1]).toEqual([150, 50, 50]);
    movePoint(draft, id, 1, 2, 90);
    expect(lead().points_mm?.[1]).toEqual([150, 50, 90]);
    takePoint(draft, id, 1);
    expect(lead().points_mm).toHaveLength(2);
    changeEnd(draft, id, "ends", { plug: "graphics_8" });
    changeEnd(draft, id, "ends", { sheet_mm: 2 });
    expect(lead().ends).toEqual({ plug: "graphics_8", sheet_mm: 2 });
    changeLead(draft, id, { tied: true });
    expect(lead().tied).toBe(true);
  });

  it("has no points where a part has no place, and gets a first pair", () => {
    const draft = build();
    const id = addLead(draft, "supply", "tank", { tube: "tube" });
    expect(draft.leads[0]!.points_mm).toEqual([]);
    addPoint(draft, id, 0);
    expect(draft.leads[0]!.points_mm).toHaveLength(2);
    expect(addLead(draft, "supply", "tank", { tube: "tube" })).not.toBe(id);
  });

  it("goes with its parts, and what it blocked is a share again", () => {
    const draft = build();
    const id = addLead(draft, "supply", "card", {});
    const across = draft.parts.find((part) => part.id === "across")!;
    if (across.kind === "obstacle") across.leads = [id];
    removePart(draft, "card");
    expect(draft.leads).toEqual([]);
    expect(across).toMatchObject({ leads: [], blocked_share: { value: 0.1, from: "estimate" } });
  });

  it("keeps a stated share and its other leads", () => {
    const draft = build();
    const ids = [addLead(draft, "supply", "card", {}), addLead(draft, "supply", "card", {})];
    const across = draft.parts.find((part) => part.id === "across")!;
    if (across.kind === "obstacle") across.leads = ids;
    removeLead(draft, ids[0]!);
    expect(across).toMatchObject({ leads: [ids[1]], blocked_share: null });
  });

  it("stands in the way of an air path, with others that cross it", () => {
    const draft = build();
    draft.parts.push({ id: "grille", kind: "opening", area_cm2: 100 } as never);
    draft.air_paths = [{ id: "in", from_zone: "room", to_zone: "box", elements: ["grille"] }];
    const ids = [addLead(draft, "supply", "card", {}), addLead(draft, "supply", "card", {})];
    blockAir(draft, ids[0]!, "in", 342);
    blockAir(draft, ids[1]!, "in", 100);
    blockAir(draft, ids[1]!, "in", 100);
    const across = draft.parts.filter((part) => part.kind === "obstacle").at(-1)!;
    expect(draft.air_paths[0]!.elements).toEqual(["grille", across.id]);
    expect(across).toMatchObject({ leads: ids, area_cm2: { value: 342, from: "estimate" } });
    blockAir(draft, ids[0]!, "nowhere", 100);
    expect(draft.air_paths[0]!.elements).toHaveLength(2);
  });

  it("forgets a tube, a fill and sheets of what is gone", () => {
    const draft = build();
    addLead(draft, "supply", "card", { tube: "tube" });
    insulate(draft, "supply", "bottom");
    insulate(draft, "supply", "tank");
    removePart(draft, "tube");
    removePart(draft, "tank");
    expect(draft.leads[0]!.tube).toBeNull();
    expect(draft.insulators.map((sheet) => sheet.second)).toEqual(["bottom"]);
    expect(draft.loops.every((loop) => !loop.fill && !loop.drain)).toBe(true);
  });

  it("takes a sheet out either way round", () => {
    const draft = build();
    insulate(draft, "supply", "bottom");
    takeSheet(draft, "bottom", "supply");
    expect(draft.insulators).toEqual([]);
  });
});

describe("what holds", () => {
  it("carries by its area or by its pieces", () => {
    const draft = build();
    const id = addHolding(draft, "tank", "rivet");
    expect(draft.holdings[0]).toMatchObject({ parts: ["tank"], by: "rivet", count: 1 });
    changeHolding(draft, id, { by: "hot_glue" });
    expect(draft.holdings[0]!.area_cm2).toBe(10);
    expect(GLUED).toContain("hot_glue");
  });

  it("goes with what it holds and with what is warm", () => {
    const draft = build();
    addHolding(draft, "tank", "rivet");
    addNearHeat(draft, "wood", "tank");
    addNearHeat(draft, "felt", "box");
    removePart(draft, "tank");
    expect(draft.holdings).toEqual([]);
    expect(draft.near_heat.map((one) => one.what)).toEqual(["felt"]);
  });
});

it("tells from which face a part is reached, and by what", () => {
  const draft = build();
  reachedFrom(draft, "tank", "top", "hand");
  expect(draft.parts.find((part) => part.id === "tank")!.outline).toEqual({ reached_from: "top", reached_by: "hand" });
  reachedFrom(draft, "tank", null);
  expect(draft.parts.find((part) => part.id === "tank")!.outline?.reached_from).toBeNull();
});
