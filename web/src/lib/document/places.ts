/** Places of a source: added with a share of its watts and a way to the first box's air; their limits. */
import type { BuildDocument, Part, Place } from "./build";
import { freeId } from "./ids";
import { firstBox } from "./parts";

export type Source = Extract<Part, { kind: "source" }>;
export type LimitKind = NonNullable<Place["limits"]>[number]["kind"];
export const LIMIT_WORDS: Record<LimitKind, string> = {
  throttle: "throttles at",
  own: "no more than",
  touch: "touched, no more than",
  softening: "softens at",
};

const FIRST_LIMIT_C = 90;

/** One more place of a source, whose heat goes to the air of the first box. Answers its id. */
export function addPlace(draft: BuildDocument, sourceId: string): string | undefined {
  const source = draft.parts.find((part): part is Source => part.id === sourceId && part.kind === "source");
  const box = firstBox(draft);
  if (!source || !box) return undefined;
  const name = `${source.name || source.id}, place ${source.places.length + 1}`;
  const id = freeId(draft, name);
  const last = source.places.at(-1)!;
  source.places.push({
    id,
    name,
    temperature_kind: last.temperature_kind,
    power_share: 0.1,
    limits: [],
    package_k_w: 5,
  });
  const hops = [{ id: freeId(draft, `${id}-air`), kind: "air" as const, zone: box.id }];
  draft.routes.push({ id: freeId(draft, `route-${id}`), place: id, hops });
  return id;
}

/** Take a place out with its ways; a source keeps one at least. */
export function removePlace(draft: BuildDocument, id: string): void {
  for (const part of draft.parts) {
    if (!("places" in part) || part.places.length < 2 || !part.places.some((place) => place.id === id)) continue;
    part.places = part.places.filter((place) => place.id !== id);
    draft.routes = draft.routes.filter((route) => route.place !== id);
  }
}

export function addLimit(place: Place): void {
  const taken = new Set((place.limits ?? []).map((limit) => limit.kind));
  const kind = (Object.keys(LIMIT_WORDS) as LimitKind[]).find((one) => !taken.has(one)) ?? "own";
  place.limits = [...(place.limits ?? []), { kind, at_c: FIRST_LIMIT_C }];
}
