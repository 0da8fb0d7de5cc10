/** Slots with their stacks, places in the housing, and what lies under plates. */
import type { BuildDocument, Face, Figure, Joint, Part, PlateContact, Slot, StackItem } from "./build";
import { leaves } from "./elements";
import { leaveHoldings } from "./holding";
import { freeId } from "./ids";
import { leaveLeads } from "./leads";

export type Point = [number, number, number];

export type Reach = NonNullable<NonNullable<Part["outline"]>["reached_by"]>;

/** A length that somebody measured. */
export const measuredMm = (value: number, plusMinus?: number): Figure => ({
  value,
  from: "measured",
  ...(plusMinus === undefined ? {} : { plus_minus: plusMinus }),
});

/** The part of a thing in a stack; nothing where it is none of the build. */
export const partOf = (item: StackItem): string | null => (typeof item === "string" ? item : (item.part ?? null));

const slotOf = (draft: BuildDocument, id: string): Slot | undefined => draft.slots.find((slot) => slot.id === id);

export function addSlot(draft: BuildDocument, name: string, gapMm: number): string {
  const id = freeId(draft, `slot-${name}`);
  draft.slots.push({ id, name, gap_mm: measuredMm(gapMm), begins: "perforated", ends: "part", ends_at: "", stack: [] });
  return id;
}

/** A slot goes, and what it left of a gap is what it was told last. */
export function removeSlot(draft: BuildDocument, id: string, leftMm: number): void {
  draft.slots = draft.slots.filter((slot) => slot.id !== id);
  for (const part of draft.parts)
    if (part.kind === "gap" && part.slot === id) {
      part.slot = null;
      part.gap_mm = { value: Math.max(leftMm, 0.2), plus_minus: "20%", from: "estimate" };
    }
}

export function changeSlot(draft: BuildDocument, id: string, change: Partial<Slot>): void {
  const slot = slotOf(draft, id);
  if (slot) Object.assign(slot, change);
}

export function putInStack(draft: BuildDocument, id: string, item: StackItem): void {
  const slot = slotOf(draft, id);
  if (slot) slot.stack = [...(slot.stack ?? []), item];
}

export function takeFromStack(draft: BuildDocument, id: string, at: number): void {
  const slot = slotOf(draft, id);
  if (slot) slot.stack = (slot.stack ?? []).filter((_, i) => i !== at);
}

export function moveInStack(draft: BuildDocument, id: string, at: number, by: 1 | -1): void {
  const stack = slotOf(draft, id)?.stack;
  const to = at + by;
  if (!stack || to < 0 || to >= stack.length) return;
  [stack[at], stack[to]] = [stack[to]!, stack[at]!];
}

/** How thick a thing in a stack was measured to be; its own or its class's again without a value. */
export function thickInStack(draft: BuildDocument, id: string, at: number, mm: number | undefined): void {
  const stack = slotOf(draft, id)?.stack;
  const item = stack?.[at];
  if (!stack || item === undefined) return;
  const layer = typeof item === "string" ? { part: item } : { ...item };
  if (mm === undefined) delete layer.thickness_mm;
  else layer.thickness_mm = measuredMm(mm);
  stack[at] = layer.part && !layer.name && layer.thickness_mm === undefined ? layer.part : layer;
}

/** The air path that the last part of a stack which moves or cools air stands in. */
export function breathesIn(document: BuildDocument, slot: Slot): { path: string; part: Part } | null {
  const parts = (slot.stack ?? []).map(partOf).map((id) => document.parts.find((part) => part.id === id));
  const last = parts.filter((part): part is Part => part?.kind === "fan" || part?.kind === "radiator").at(-1);
  const path = last && document.air_paths.find((one) => leaves(one.elements).includes(last.id));
  return last && path ? { path: path.id, part: last } : null;
}

/** What is left in a slot becomes the gap that its air has to pass: a new element of the path, beside what breathes there. */
export function handToAir(draft: BuildDocument, id: string, spanMm: number): void {
  const slot = slotOf(draft, id);
  const found = slot && breathesIn(draft, slot);
  const path = draft.air_paths.find((one) => one.id === found?.path);
  if (!slot || !found || !path) return;
  const gap = freeId(draft, `gap-${slot.name || slot.id}`);
  draft.parts.push({
    id: gap,
    kind: "gap",
    name: `Left in ${slot.name || slot.id}`,
    slot: id,
    span_mm: { value: spanMm, plus_minus: "3%", from: "class" },
    ...(slot.ends === "perforated" ? { panel_loss: { value: 3.1, plus_minus: 1.2, from: "class" } } : {}),
  } as Part);
  const at = path.elements.findIndex((element) => leaves([element]).includes(found.part.id));
  const others = (slot.stack ?? []).map(partOf).filter((part) => part !== found.part.id);
  const before = path.elements.slice(0, at).some((element) => leaves([element]).some((part) => others.includes(part)));
  path.elements.splice(before ? at + 1 : at, 0, gap);
}

/** What names a part that is gone goes with it: its place in stacks, its joints. */
export function leaveFit(draft: BuildDocument): void {
  const there = new Set(draft.parts.map((part) => part.id));
  for (const slot of draft.slots)
    slot.stack = (slot.stack ?? []).filter((item) => {
      const part = partOf(item);
      return part === null || there.has(part);
    });
  for (const contact of draft.contacts) {
    if (contact.plate && !there.has(contact.plate)) contact.plate = null;
    for (const joint of contact.joints) if (joint.interface && !there.has(joint.interface)) joint.interface = null;
  }
  leaveLeads(draft, there);
  leaveHoldings(draft, there);
}

/** Put the middle of a part somewhere in the housing, rounded to a tenth of a millimetre. */
export function place(draft: BuildDocument, id: string, at: Point): void {
  const part = draft.parts.find((one) => one.id === id);
  if (part) part.outline = { ...part.outline, position_mm: at.map((mm) => Math.round(mm * 10) / 10) as Point };
}

export function unplace(draft: BuildDocument, id: string): void {
  const part = draft.parts.find((one) => one.id === id);
  if (!part?.outline) return;
  part.outline = { ...part.outline, position_mm: null };
}

/** From which face of the closed housing a part must be reached, and by what; from none without a face. */
export function reachedFrom(draft: BuildDocument, id: string, face: Face | null, by?: Reach): void {
  const part = draft.parts.find((one) => one.id === id);
  if (!part) return;
  part.outline = { ...part.outline, reached_from: face };
  if (by) part.outline.reached_by = by;
}

/** A sheet between two parts, or a part and a face of the housing: a step before first power. */
export function insulate(draft: BuildDocument, first: string, second: string): void {
  draft.insulators.push({ id: freeId(draft, `sheet-${first}-${second}`), first, second, sheet_mm: 0.5 });
}

export function takeSheet(draft: BuildDocument, first: string, second: string): void {
  draft.insulators = draft.insulators.filter(
    (sheet) => ![sheet.first, sheet.second].every((side) => side === first || side === second),
  );
}

/** Turn a part by a quarter about an axis of the housing. */
export function turn(draft: BuildDocument, id: string, axis: 0 | 1 | 2): void {
  const part = draft.parts.find((one) => one.id === id);
  if (!part) return;
  const now = [...(part.outline?.rotation_deg ?? [0, 0, 0])] as Point;
  now[axis] = (now[axis] + 90) % 360;
  part.outline = { ...part.outline, rotation_deg: now };
}

/** An outline by class, or what somebody measured. */
export function outlineBy(draft: BuildDocument, id: string, outline: { body: string } | { size_mm: Point }): void {
  const part = draft.parts.find((one) => one.id === id);
  if (!part) return;
  const stays = { position_mm: part.outline?.position_mm, rotation_deg: part.outline?.rotation_deg };
  part.outline = { ...stays, ...outline };
}

/** The nearest snap of an interval of a size to walls and neighbours along an axis; its own place where none is near. */
export function snapped(low: number, size: number, faces: readonly number[], withinMm = 3): number {
  let best = low;
  let least = withinMm;
  for (const face of faces)
    for (const to of [face, face - size])
      if (Math.abs(to - low) < least) {
        best = to;
        least = Math.abs(to - low);
      }
  return best;
}

export function addContact(draft: BuildDocument, plate: string | null, name: string): string {
  const id = freeId(draft, `under-${name}`);
  const chip = {
    id: freeId(draft, `${id}-chip`),
    name: "Chip",
    height_mm: guessMm(2.2, 0.35),
    filler: "paste" as const,
  };
  draft.contacts.push({ id, name: `Under ${name}`, plate, joints: [chip] });
  return id;
}

export const guessMm = (value: number, plusMinus: number): Figure => ({ value, plus_minus: plusMinus, from: "class" });

/** Heights over a card's or board's face by class (values from memory). */
export const NEIGHBOURS: { name: string; height_mm: [number, number]; filler: Joint["filler"]; pad_mm?: number }[] = [
  { name: "Memory", height_mm: [1.15, 0.1], filler: "pad", pad_mm: 1.25 },
  { name: "Regulators", height_mm: [0.9, 0.15], filler: "pad", pad_mm: 1.5 },
  { name: "Coil", height_mm: [5, 1], filler: "nothing" },
  { name: "Capacitor", height_mm: [7, 1.8], filler: "nothing" },
];

export function addJoint(draft: BuildDocument, contactId: string, kind: (typeof NEIGHBOURS)[number]): void {
  const contact = draft.contacts.find((one) => one.id === contactId);
  if (!contact) return;
  const joint: Joint = {
    id: freeId(draft, `${contactId}-${kind.name}`),
    name: kind.name,
    height_mm: guessMm(...kind.height_mm),
    filler: kind.filler ?? "nothing",
    ...(kind.filler === "pad"
      ? { pad_mm: kind.pad_mm ?? 1, hardness: "soft" as const }
      : { step_mm: kind.height_mm[0] }),
  };
  contact.joints = [...contact.joints, joint];
}

export function changeContact(draft: BuildDocument, id: string, change: Partial<PlateContact>): void {
  const contact = draft.contacts.find((one) => one.id === id);
  if (contact) Object.assign(contact, change);
}

/** A joint changes; a layer that it names gives up the resistance that it stated, which follows from the joint now. */
export function changeJoint(draft: BuildDocument, id: string, change: Partial<Joint>): void {
  for (const contact of draft.contacts) {
    const at = contact.joints.findIndex((joint) => joint.id === id);
    if (at < 0) continue;
    contact.joints[at] = { ...contact.joints[at]!, ...change };
    const layer = draft.parts.find((part) => part.id === change.interface);
    if (at > 0 && layer?.kind === "interface") layer.resistance_mm2k_w = null;
  }
}

export function removeJoint(draft: BuildDocument, id: string): void {
  for (const contact of draft.contacts)
    contact.joints = contact.joints.filter((joint, i) => i === 0 || joint.id !== id);
}
