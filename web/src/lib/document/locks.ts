/** Locks: parts and figures that next changes, "Solve for" and candidates leave alone. */
import { addressOf, fieldOf } from "./addresses";
import { ownerOf, placesOf, type BuildDocument } from "./build";
import { fieldsOf, modelOf } from "./fields";

export const locksOf = (document: BuildDocument): string[] => document.locked ?? [];

export const isLocked = (document: BuildDocument, address: string): boolean => locksOf(document).includes(address);

export function toggleLock(draft: BuildDocument, address: string): void {
  const left = locksOf(draft).filter((lock) => lock !== address);
  draft.locked = left.length === locksOf(draft).length ? [...left, address] : left;
}

/** Locks on a part that is taken out, and on its places and figures, go with it. */
export function dropLocks(draft: BuildDocument, id: string): void {
  const gone = new Set([id, ...placesOf(draft, id).map((place) => place.id)]);
  if (draft.locked) draft.locked = draft.locked.filter((lock) => !lock.split("/").some((name) => gone.has(name)));
}

const nameOf = (document: BuildDocument, id: string) => String(fieldOf(ownerOf(document, id), "name") ?? "") || id;

/** A lock in words: the part, and the figure of it where only one is held. */
export function lockName(document: BuildDocument, lock: string): string {
  const { owner: id, field } = addressOf(lock);
  if (id === "movers") return `${nameOf(document, field)}: duty`;
  if (id === "watts") return `${nameOf(document, field)}: watts`;
  const owner = ownerOf(document, id);
  const label = owner && field ? (fieldsOf(modelOf(document, owner))[field]?.label ?? field) : "";
  return label ? `${nameOf(document, id)}: ${label}` : nameOf(document, id);
}
