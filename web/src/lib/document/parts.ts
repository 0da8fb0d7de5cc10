/** Parts put into a build and taken out of it and of everything that names them. */
import { placesOf, type BuildDocument, type Command, type Part, type PartKind } from "./build";
import { insert, without } from "./elements";
import { freeId } from "./ids";

/** A part that is not in the build yet. */
export type NewPart = { [K in PartKind]: Omit<Extract<Part, { kind: K }>, "id"> }[PartKind];

export const estimate = (value: number, half: string) => ({ value, plus_minus: half, from: "estimate" as const });

/** Put copies of a part into the build: one after the other, or beside each other. Answers the new ids. */
export function addParts(draft: BuildDocument, part: NewPart, count: number): string[] {
  const ids: string[] = [];
  for (let n = 0; n < count; n += 1) {
    const id = freeId(draft, String(part.name ?? part.kind));
    const name = count > 1 ? `${part.name ?? part.kind} ${n + 1}` : part.name;
    draft.parts.push({ ...structuredClone(part), id, ...(name ? { name } : {}) } as Part);
    ids.push(id);
  }
  return ids;
}

/** Movers run at a duty in every workload from the start. */
export function command(draft: BuildDocument, ids: string[], duty: Command): void {
  for (const workload of draft.workloads) {
    workload.movers = { ...workload.movers, ...Object.fromEntries(ids.map((id) => [id, { ...duty }])) };
  }
}

const FIRST_DUTY = { fan: 0.6, pump: 0.7 };
/** Put copies of a part into a loop (before its last element), an air path, or both; movers run from the start. */
export function putPart(
  draft: BuildDocument,
  part: NewPart,
  { loop, path, beside, count }: { loop: string; path: string; beside: boolean; count: number },
): void {
  const ids = addParts(draft, part, count);
  const ring = draft.loops.find((one) => one.id === loop);
  if (ring) ring.elements = insert(ring.elements, ids, false, Math.max(ring.elements.length - 1, 0));
  const way = draft.air_paths.find((one) => one.id === path);
  if (way) way.elements = insert(way.elements, ids, beside);
  if (part.kind === "fan" || part.kind === "pump") command(draft, ids, { duty: FIRST_DUTY[part.kind] });
}

/** Where heat goes that nothing else takes: the first box, else the first zone. */
export const firstBox = (document: BuildDocument) =>
  document.zones.find((zone) => zone.kind === "box") ?? document.zones[0];

/** Take a part out of the build and of everything that names it. Routes that end in it end in the first box's air. */
export function removePart(draft: BuildDocument, id: string): void {
  const places = new Set(placesOf(draft, id).map((place) => place.id));
  draft.parts = draft.parts.filter((p) => p.id !== id);
  if (draft.bonds) draft.bonds = draft.bonds.filter((bond) => bond.first !== id && bond.second !== id);
  for (const loop of draft.loops) loop.elements = without(loop.elements, id);
  for (const path of draft.air_paths) path.elements = without(path.elements, id);
  draft.air_paths = draft.air_paths.filter((path) => path.elements.length);
  const left = new Set(draft.air_paths.map((path) => path.id));
  draft.recirculations = draft.recirculations.filter((mix) => left.has(mix.from_path) && left.has(mix.to_path));
  draft.routes = draft.routes.filter((route) => !places.has(route.place));
  const box = firstBox(draft);
  for (const route of draft.routes) {
    if (!route.hops.some((hop) => hop.part === id || hop.parts?.includes(id))) continue;
    for (const hop of route.hops) if (hop.parts) hop.parts = hop.parts.filter((part) => part !== id);
    route.hops = route.hops.filter((hop) => hop.part !== id && hop.parts?.length !== 0);
    if (!["plate", "stream", "air", "body"].includes(route.hops.at(-1)?.kind ?? "") && box)
      route.hops.push({ id: freeId(draft, `${route.place}-air`), kind: "air", zone: box.id });
  }
  for (const workload of draft.workloads) {
    delete workload.movers?.[id];
    delete workload.watts[id];
    delete workload.burst?.[id];
  }
}
