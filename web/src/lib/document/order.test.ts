import { beforeEach, describe, expect, it } from "vitest";
import type { BuildDocument } from "./build";
import { emptyBuild } from "./empty";
import { addFeed, changeFeed, feedPart, hangsOn, hasOwnMains, mend, removeFeed, switchesOf } from "./feeds";
import {
  addDue,
  addRule,
  addStep,
  dropRule,
  leaveOrder,
  removeRule,
  removeStep,
  setPrice,
  setStock,
  tellStep,
} from "./order";
import { removePart } from "./parts";

let draft: BuildDocument;
beforeEach(() => {
  draft = emptyBuild("t", 22);
  draft.parts = ["pump", "fan", "fan-2", "supply"].map((id) => ({
    id,
    name: id,
    kind: id === "pump" ? "pump" : id === "supply" ? "supply" : "fan",
  })) as never;
});

describe("rules", () => {
  it("of the same two take each other's place", () => {
    addRule(draft, "pump", "fan", "because");
    dropRule(draft, "pump", "fan");
    expect(draft.assembly).toEqual([{ first: "pump", then: "fan", why: "", holds: false }]);
    addRule(draft, "pump", "fan", "after all");
    expect(draft.assembly).toEqual([{ first: "pump", then: "fan", why: "after all" }]);
    removeRule(draft, 0);
    expect(draft.assembly).toEqual([]);
  });

  it("go with the part that they are about", () => {
    addRule(draft, "pump", "fan", "");
    addRule(draft, "gate-leak-watch", "close-panels", "");
    addRule(draft, "prepare-pump", "firmware", "");
    addDue(draft, "look at it", 30, "pump");
    addStep(draft, "Look", { gate: true, sees: ["pump", "fan"] });
    tellStep(draft, "pump", { minutes: 5 });
    removePart(draft, "pump");
    expect(draft.assembly.map((rule) => rule.first)).toEqual(["gate-leak-watch"]);
    expect(draft.dues).toEqual([]);
    expect(draft.steps.map((step) => [step.at ?? null, step.sees])).toEqual([[null, ["fan"]]]);
  });

  it("know every step that Krill proposes", () => {
    for (const id of ["gate-bench-start", "cut-top", "leads-of-supply", "close-panels"]) addRule(draft, id, "pump", "");
    addRule(draft, "gate-of-nothing", "pump", "");
    leaveOrder(draft);
    expect(draft.assembly.map((rule) => rule.first)).toEqual([
      "gate-bench-start",
      "cut-top",
      "leads-of-supply",
      "close-panels",
    ]);
  });
});

describe("steps", () => {
  it("are told once each", () => {
    tellStep(draft, "pump", { minutes: 5 });
    tellStep(draft, "pump", { tool: "hands" });
    expect(draft.steps).toEqual([{ id: "step-pump", at: "pump", minutes: 5, tool: "hands" }]);
    const own = addStep(draft, "Paint the lid");
    tellStep(draft, own, { minutes: 120 });
    addRule(draft, own, "pump", "");
    expect(draft.steps[1]).toEqual({ id: "paint-the-lid", name: "Paint the lid", minutes: 120 });
    removeStep(draft, own);
    expect(draft.assembly).toEqual([]);
    expect(draft.steps).toHaveLength(1);
  });
});

describe("what is in hand", () => {
  it("keeps a day only while it is on its way", () => {
    setStock(draft, "pump", "ordered", "2027-01-02");
    expect(draft.parts[0]).toMatchObject({ stock: "ordered", due_on: "2027-01-02" });
    setStock(draft, "pump", "in_hand");
    expect(draft.parts[0]).toMatchObject({ stock: "in_hand", due_on: null });
    setPrice(draft, "pump", 78);
    expect(draft.parts[0]!.price).toBe(78);
    setPrice(draft, "nothing", 1);
  });
});

describe("feeds", () => {
  it("hang on each other and are mended by a hub of their own", () => {
    const plug = addFeed(draft, "fan_plug", "supply");
    const splitter = addFeed(draft, "splitter_fan", plug);
    feedPart(draft, "fan", splitter);
    feedPart(draft, "fan-2", plug);
    expect([plug, splitter, hangsOn(draft, splitter, plug), hangsOn(draft, plug, splitter)]).toEqual([
      "fan-plug",
      "splitter-fan",
      true,
      false,
    ]);
    const hub = mend(draft, plug);
    expect(draft.feeds.at(-1)).toMatchObject({ id: hub, kind: "hub", fed_by: "supply", stock: "to_buy" });
    expect(draft.parts.map((part) => part.feed ?? null)).toEqual([null, hub, hub, null]);
  });

  it("hand on what hung on them when they go", () => {
    const plug = addFeed(draft, "fan_plug", "supply");
    const splitter = addFeed(draft, "splitter_fan", plug);
    feedPart(draft, "fan", splitter);
    changeFeed(draft, splitter, { price: 6 });
    removeFeed(draft, plug);
    expect(draft.feeds).toEqual([expect.objectContaining({ id: splitter, fed_by: "supply", price: 6 })]);
    removeFeed(draft, splitter);
    expect(draft.parts[1]!.feed).toBe("supply");
    removePart(draft, "supply");
    expect(draft.parts.find((part) => part.id === "fan")!.feed).toBeNull();
  });

  it("say what a switch leaves on, and which end at a wall of their own", () => {
    const station = addFeed(draft, "brick_round", null);
    const plug = addFeed(draft, "fan_plug", "supply");
    const splitter = addFeed(draft, "splitter_fan", station);
    changeFeed(draft, station, { switched_by: "station" });
    feedPart(draft, "pump", splitter);
    feedPart(draft, "fan", plug);
    expect(switchesOf(draft)).toEqual([{ name: "station", stops: ["pump"], staysOn: ["fan"] }]);
    expect([splitter, station, plug, "nothing"].map((id) => hasOwnMains(draft, id))).toEqual([
      true,
      true,
      false,
      false,
    ]);
  });
});
