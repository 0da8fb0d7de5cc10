/** One document of two that were made from the same one: what each changed stands, what both changed is named. */
import { compare } from "fast-json-patch";
import { fieldOf } from "./addresses";
import { ownerOf, type BuildDocument } from "./build";
import { labelOf } from "./fields";

/** ``clashes`` are the paths that both changed otherwise; there ``mine`` stands. */
export type Merged<T> = { document: T; clashes: string[] };

type Thing = { id: string } & Record<string, unknown>;

export function mergeDocuments<T extends object>(base: object, mine: T, theirs: object): Merged<T> {
  const clashes: string[] = [];
  return { document: mergeValues(base, mine, theirs, "", clashes) as T, clashes };
}

function mergeValues(base: unknown, mine: unknown, theirs: unknown, path: string, clashes: string[]): unknown {
  if (same(mine, theirs) || same(base, theirs)) return mine;
  if (same(base, mine)) return theirs;
  if (areThings(mine) && areThings(theirs) && areThings(base ?? []))
    return mergeThings((base ?? []) as Thing[], mine, theirs, path, clashes);
  if (isTable(mine) && isTable(theirs) && isTable(base ?? {}))
    return mergeTables((base ?? {}) as Record<string, unknown>, mine, theirs, path, clashes);
  clashes.push(path);
  return mine;
}

function mergeTables(
  base: Record<string, unknown>,
  mine: Record<string, unknown>,
  theirs: Record<string, unknown>,
  path: string,
  clashes: string[],
): Record<string, unknown> {
  const keys = new Set([...Object.keys(theirs), ...Object.keys(mine)]);
  return Object.fromEntries(
    [...keys]
      .map((key) => [key, mergeValues(base[key], mine[key], theirs[key], under(path, key), clashes)] as const)
      .filter(([, value]) => value !== undefined),
  );
}

/** Things are the same by their id; they stand in the order of whoever moved them, theirs where both did. */
function mergeThings(base: Thing[], mine: Thing[], theirs: Thing[], path: string, clashes: string[]): Thing[] {
  const [first, second] = isMoved(base, theirs) || !isMoved(base, mine) ? [theirs, mine] : [mine, theirs];
  const order = [...idsOf(first)];
  for (const [at, id] of idsOf(second).entries())
    if (!order.includes(id)) order.splice(after(order, idsOf(second).slice(0, at)), 0, id);
  return order
    .map((id) => mergeValues(find(base, id), find(mine, id), find(theirs, id), under(path, id), clashes))
    .filter((thing) => thing !== undefined) as Thing[];
}

/** Whether what is left of the things stands in another order. */
const isMoved = (base: Thing[], now: Thing[]) =>
  !same(
    idsOf(base).filter((id) => find(now, id)),
    idsOf(now).filter((id) => find(base, id)),
  );

/** Where a thing goes that stood behind some others: behind the last of them that is there. */
const after = (order: string[], before: string[]) => {
  const last = before.findLast((id) => order.includes(id));
  return last === undefined ? order.length : order.indexOf(last) + 1;
};

const under = (path: string, key: string) => (path ? `${path}/${key}` : key);
const idsOf = (things: Thing[]) => things.map((thing) => thing.id);
const find = (things: Thing[], id: string) => things.find((thing) => thing.id === id);

const areThings = (value: unknown): value is Thing[] =>
  Array.isArray(value) && value.every((one) => typeof (one as Thing | null)?.id === "string");

/** A table of fields; a figure is one thing, whose value and origin belong together. */
const isTable = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value) && !("value" in value);

const same = (one: unknown, other: unknown) => compare({ at: one }, { at: other }).length === 0;

/** What a path of a document is about, in the words of its parts: "Both · watts · Processor". */
export function pathInWords(document: BuildDocument, path: string): string {
  const [list = "", ...rest] = path.split("/");
  const named = rest.map((key) => String(fieldOf(ownerOf(document, key), "name") || "") || labelOf(key));
  return named.length ? named.join(" · ") : labelOf(list);
}
