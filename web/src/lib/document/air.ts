/** Air: zones, paths between them, which way they blow, and exhaust that an intake draws back in. */
import type { AirPath, BuildDocument, Face, Figure, Mouths } from "./build";
import { leaves, reversed } from "./elements";
import { freeId } from "./ids";
import { addParts, estimate, type NewPart } from "./parts";

/** The air path that a part stands in. */
export const pathOf = (document: BuildDocument, part: string): AirPath | undefined =>
  document.air_paths.find((path) => leaves(path.elements).includes(part));

/** Turn the air of a path round: its ends, its elements and what its parts say of their direction. */
export function flipPath(draft: BuildDocument, id: string): void {
  const path = draft.air_paths.find((p) => p.id === id);
  if (!path) return;
  [path.from_zone, path.to_zone] = [path.to_zone, path.from_zone];
  path.elements = reversed(path.elements);
  for (const part of draft.parts)
    if (leaves(path.elements).includes(part.id) && part.direction)
      part.direction = part.direction === "in" ? "out" : "in";
  draft.recirculations = draft.recirculations.filter((mix) => mix.from_path !== id && mix.to_path !== id);
}

export function addChamber(draft: BuildDocument, name: string): string {
  const id = freeId(draft, name);
  draft.zones.push({ id, name, kind: "box", wall_w_k: estimate(1, "40%") });
  return id;
}

export function addOutside(draft: BuildDocument, name: string, airC: number | null): string {
  const id = freeId(draft, name);
  const where = airC === null ? { room: draft.rooms[0]!.id } : { air_c: airC };
  draft.zones.push({ id, name, kind: "outside", ...where });
  return id;
}

/** A path from one zone to another; it starts with one opening, since a path is never empty. */
export function addPath(draft: BuildDocument, name: string, from: string, to: string, face: Face | ""): string {
  const id = freeId(draft, `air-${name}`);
  const opening: NewPart = {
    kind: "opening",
    name: `${name}, opening`,
    class: "opening_dense",
    area_cm2: estimate(100, "20%"),
    ...(face ? { face } : {}),
  };
  const [part] = addParts(draft, opening, 1);
  draft.air_paths.push({ id, name, from_zone: from, to_zone: to, elements: [part!] });
  return id;
}

export const recirculationOf = (document: BuildDocument, intake: string) =>
  document.recirculations.find((item) => item.to_path === intake);

/** How much of an exhaust is drawn in again: a share that somebody knows, or how the two mouths lie. */
export type DrawnAgain = { recirculated_share: number } | { mouths: Mouths; apart_mm?: Figure };

/** Ways for two mouths to lie, in words. */
export const MOUTHS: Record<Mouths, string> = {
  one_face: "on one face, or round a corner by a near wall",
  free: "with nothing near them",
  opposite_faces: "on opposite faces",
  over_feet: "under a housing on feet",
};

/** Exhaust of a path that an intake draws in again; nothing takes the recirculation away. */
export function recirculate(draft: BuildDocument, intake: string, exhaust: string, again: DrawnAgain | null): void {
  const others = draft.recirculations.filter((item) => item.to_path !== intake);
  if (!exhaust || !again) draft.recirculations = others;
  else {
    const id = recirculationOf(draft, intake)?.id ?? freeId(draft, `again-${intake}`);
    draft.recirculations = [...others, { id, from_path: exhaust, to_path: intake, ...again }];
  }
}
