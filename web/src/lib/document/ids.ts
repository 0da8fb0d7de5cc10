/** Ids: everything in a build has one of its own. */
import { placesOf, type BuildDocument } from "./build";

/** A slug that nothing in the build is called by yet. */
export function freeId(document: BuildDocument, wanted: string): string {
  const base =
    wanted
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-|-$/g, "")
      .slice(0, 48) || "part";
  const taken = new Set(idsOf(document));
  for (let n = 1; ; n += 1) {
    const id = n === 1 ? base : `${base}-${n}`;
    if (!taken.has(id)) return id;
  }
}

function idsOf(document: BuildDocument): string[] {
  const listed = Object.values(document).filter((value): value is { id: string }[] => Array.isArray(value));
  return [
    ...listed.flat().map((item) => item.id),
    ...placesOf(document).map((place) => place.id),
    ...document.routes.flatMap((route) => route.hops.map((hop) => hop.id)),
    ...document.contacts.flatMap((contact) => contact.joints.map((joint) => joint.id)),
  ];
}
