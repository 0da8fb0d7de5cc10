/** Addresses: ``id/field``, or ``id/field/key`` where the field is a table; taken apart and written through here alone. */
import { ownerOf, withValue, type BuildDocument, type Figure } from "./build";

export type Address = { owner: string; field: string; key: string | undefined };

export function addressOf(text: string): Address {
  const [owner = "", field = "", ...rest] = text.split("/");
  return { owner, field, key: rest.length ? rest.join("/") : undefined };
}

/** Whether an address is the duty of a fan or pump, or of several. */
export const isDuty = (address: string) => address.startsWith("movers/");
/** The address of the room that every question is asked in. */
export const roomAddress = (document: BuildDocument) => `${document.rooms[0]?.id}/air_c`;

/** A field of whatever an id belongs to, by its name; undefined where it has no such field, or it says nothing. */
export const fieldOf = (owner: object | undefined, field: string): unknown =>
  (owner as Record<string, unknown> | undefined)?.[field] ?? undefined;

export const figureOf = (owner: object | undefined, field: string) => fieldOf(owner, field) as Figure | undefined;

/** Set what stands at a path of an object; tables on the way are made. */
export function setField(owner: object, path: string, value: unknown): void {
  const keys = path.split("/");
  let here = owner as Record<string, unknown>;
  for (const key of keys.slice(0, -1)) here = (here[key] ??= {}) as Record<string, unknown>;
  here[keys.at(-1)!] = value;
}

/** Set what stands at an address; nothing happens where its owner is not there. */
export function setAt(draft: BuildDocument, address: string, value: unknown): void {
  const { owner, field, key } = addressOf(address);
  const target = ownerOf(draft, owner);
  if (target) setField(target, key === undefined ? field : `${field}/${key}`, value);
}

/** Give the figure at an address another value, as a person would type it. */
export function setValueAt(draft: BuildDocument, address: string, value: number): void {
  const { owner, field, key } = addressOf(address);
  const target = ownerOf(draft, owner);
  const now = key === undefined ? figureOf(target, field) : figureOf(fieldOf(target, field) as object, key);
  setAt(draft, address, key === undefined ? withValue(now, value) : value);
}
