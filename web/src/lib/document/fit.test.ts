import { describe, expect, it } from "vitest";
import { opened, type BuildDocument } from "./build";
import { emptyBuild } from "./empty";
import {
  addContact,
  addJoint,
  addSlot,
  breathesIn,
  changeJoint,
  handToAir,
  leaveFit,
  moveInStack,
  NEIGHBOURS,
  outlineBy,
  partOf,
  place,
  putInStack,
  removeJoint,
  removeSlot,
  snapped,
  takeFromStack,
  thickInStack,
  turn,
  unplace,
} from "./fit";
import { removePart } from "./parts";

function build(): BuildDocument {
  const draft = opened(emptyBuild("Fit", 25));
  draft.zones = [
    { id: "room-air", kind: "outside", room: draft.rooms[0]!.id },
    { id: "box", kind: "box" },
  ];
  draft.parts = [
    { id: "grille", kind: "opening", area_cm2: 100 },
    { id: "fan", kind: "fan", class: "fan_120x25", name: "Front fan" },
    { id: "radiator", kind: "radiator", section_mm: 120, sections: 1, thickness_mm: 30 },
    { id: "pads", kind: "interface", resistance_mm2k_w: 400 },
  ] as BuildDocument["parts"];
  draft.air_paths = [{ id: "in", from_zone: "room-air", to_zone: "box", elements: ["grille", "fan", "radiator"] }];
  return draft;
}

describe("slots", () => {
  it("hold a stack in its order, each thing with the thickness that was measured", () => {
    const draft = build();
    const id = addSlot(draft, "Front", 60);
    putInStack(draft, id, "fan");
    putInStack(draft, id, { name: "pads", thickness_mm: 1.5 });
    putInStack(draft, id, "radiator");
    moveInStack(draft, id, 2, -1);
    expect(draft.slots[0]!.stack!.map(partOf)).toEqual(["fan", "radiator", null]);
    moveInStack(draft, id, 0, -1);
    expect(draft.slots[0]!.stack!.map(partOf)).toEqual(["fan", "radiator", null]);
    thickInStack(draft, id, 0, 25.4);
    expect(draft.slots[0]!.stack![0]).toEqual({ part: "fan", thickness_mm: { value: 25.4, from: "measured" } });
    thickInStack(draft, id, 0, undefined);
    expect(draft.slots[0]!.stack![0]).toBe("fan");
    takeFromStack(draft, id, 1);
    expect(draft.slots[0]!.stack!.map(partOf)).toEqual(["fan", null]);
    expect(draft.slots[0]!.gap_mm).toEqual({ value: 60, from: "measured" });
  });

  it("hand what they leave to the air beside what breathes last", () => {
    const draft = build();
    const id = addSlot(draft, "Front", 60);
    expect(breathesIn(draft, draft.slots[0]!)).toBeNull();
    putInStack(draft, id, "fan");
    putInStack(draft, id, "radiator");
    expect(breathesIn(draft, draft.slots[0]!)?.part.id).toBe("radiator");
    handToAir(draft, id, 120);
    expect(draft.air_paths[0]!.elements).toEqual(["grille", "fan", "radiator", "gap-front"]);
    const gap = draft.parts.at(-1)!;
    expect(gap).toMatchObject({ kind: "gap", slot: id, span_mm: { value: 120 } });
    removeSlot(draft, id, 3.5);
    expect(draft.parts.at(-1)).toMatchObject({ slot: null, gap_mm: { value: 3.5, from: "estimate" } });
  });

  it("put the gap before what breathes first where the air comes from there", () => {
    const draft = build();
    draft.air_paths[0]!.elements = ["radiator", "fan", "grille"];
    const id = addSlot(draft, "Rear", 60);
    putInStack(draft, id, "fan");
    putInStack(draft, id, "radiator");
    handToAir(draft, id, 120);
    expect(draft.air_paths[0]!.elements).toEqual(["gap-rear", "radiator", "fan", "grille"]);
  });

  it("lose a part that is taken out of the build", () => {
    const draft = build();
    const id = addSlot(draft, "Front", 60);
    putInStack(draft, id, "fan");
    putInStack(draft, id, { part: "radiator", thickness_mm: 30 });
    removePart(draft, "radiator");
    expect(draft.slots[0]!.stack).toEqual(["fan"]);
  });
});

describe("places", () => {
  it("are rounded, turned by quarters, and kept with the outline", () => {
    const draft = build();
    outlineBy(draft, "fan", { body: "fan_120x38" });
    place(draft, "fan", [10.04, 20.06, 30]);
    turn(draft, "fan", 2);
    expect(draft.parts[1]!.outline).toEqual({
      body: "fan_120x38",
      position_mm: [10, 20.1, 30],
      rotation_deg: [0, 0, 90],
    });
    for (let i = 0; i < 3; i += 1) turn(draft, "fan", 2);
    expect(draft.parts[1]!.outline!.rotation_deg).toEqual([0, 0, 0]);
    outlineBy(draft, "fan", { size_mm: [121, 121, 26] });
    expect(draft.parts[1]!.outline).toMatchObject({ size_mm: [121, 121, 26], position_mm: [10, 20.1, 30] });
    expect(draft.parts[1]!.outline).not.toHaveProperty("body");
    unplace(draft, "fan");
    expect(draft.parts[1]!.outline!.position_mm).toBeNull();
  });

  it("snap to the nearest face within reach, by either end", () => {
    expect(snapped(2.9, 40, [0, 300])).toBe(0);
    expect(snapped(3.1, 40, [0, 300])).toBe(3.1);
    expect(snapped(258, 40, [0, 300])).toBe(260);
    expect(snapped(99, 40, [102, 140.5])).toBe(100.5);
  });
});

describe("contacts", () => {
  it("begin with their chip and take neighbours by class", () => {
    const draft = build();
    const id = addContact(draft, null, "Graphics");
    addJoint(draft, id, NEIGHBOURS[0]!);
    addJoint(draft, id, NEIGHBOURS[2]!);
    expect(draft.contacts[0]!.joints.map((joint) => joint.name)).toEqual(["Chip", "Memory", "Coil"]);
    expect(new Set(draft.contacts[0]!.joints.map((joint) => joint.id)).size).toBe(3);
    removeJoint(draft, draft.contacts[0]!.joints[0]!.id);
    expect(draft.contacts[0]!.joints).toHaveLength(3); // the chip sets the plane
    removeJoint(draft, draft.contacts[0]!.joints[1]!.id);
    expect(draft.contacts[0]!.joints.map((joint) => joint.name)).toEqual(["Chip", "Coil"]);
  });

  it("take over the resistance of a layer that they name, the chip's stays", () => {
    const draft = build();
    const id = addContact(draft, null, "Graphics");
    addJoint(draft, id, NEIGHBOURS[0]!);
    const [chip, memory] = draft.contacts[0]!.joints;
    changeJoint(draft, chip!.id, { interface: "pads" });
    expect(draft.parts[3]).toMatchObject({ resistance_mm2k_w: 400 });
    changeJoint(draft, memory!.id, { interface: "pads" });
    expect(draft.parts[3]).toMatchObject({ resistance_mm2k_w: null });
    draft.parts = draft.parts.filter((part) => part.id !== "pads");
    leaveFit(draft);
    expect(draft.contacts[0]!.joints.map((joint) => joint.interface)).toEqual([null, null]);
  });
});
