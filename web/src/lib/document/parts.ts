/** Parts put into a build and taken out of it and of everything that names them. */
import { placesOf, type BuildDocument, type Command, type Part, type PartKind } from "./build";
import { insert, insertAfter, without } from "./elements";
import { freeId } from "./ids";
import { leaveFit } from "./fit";
import { leaveOrder } from "./order";
import { dropLocks } from "./locks";

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

/** A copy of a part beside it: in its loop, its air path and its workloads; of a source with its places and their ways. */
export function copyPart(draft: BuildDocument, id: string): string | undefined {
  const part = draft.parts.find((one) => one.id === id);
  if (!part) return undefined;
  const copy = structuredClone(part);
  copy.name = freeName(draft, part.name || part.id);
  copy.id = freeId(draft, copy.name);
  draft.parts.splice(draft.parts.indexOf(part) + 1, 0, copy);
  if ("places" in copy) copyPlaces(draft, copy);
  for (const way of [...draft.loops, ...draft.air_paths]) way.elements = insertAfter(way.elements, id, copy.id);
  for (const workload of draft.workloads) {
    const { watts, movers, burst } = workload;
    if (watts[id] !== undefined) watts[copy.id] = structuredClone(watts[id]);
    if (movers?.[id]) movers[copy.id] = structuredClone(movers[id]);
    if (burst?.[id]) burst[copy.id] = structuredClone(burst[id]);
  }
  return copy.id;
}

function freeName(draft: BuildDocument, name: string): string {
  const base = name.replace(/ \d+$/, "");
  const taken = new Set(draft.parts.map((part) => part.name));
  for (let n = 2; ; n += 1) if (!taken.has(`${base} ${n}`)) return `${base} ${n}`;
}

/** Places of a copied source get ids of their own, and ways like those they were copied from. */
function copyPlaces(draft: BuildDocument, copy: Extract<Part, { places: unknown[] }>): void {
  for (const place of copy.places) {
    const old = place.id;
    place.id = freeId(draft, `${copy.id}-${old}`.slice(0, 60));
    for (const route of draft.routes.filter((one) => one.place === old)) {
      const hops = structuredClone(route.hops);
      for (const hop of hops) {
        hop.id = freeId(draft, `${place.id}-${hop.kind}`);
        if (hop.kind === "interface" && hop.part) hop.part = copyPart(draft, hop.part) ?? hop.part;
      }
      draft.routes.push({ ...structuredClone(route), id: freeId(draft, `route-${place.id}`), place: place.id, hops });
    }
  }
}

/** Another part of the same kind in a part's place: what it is, not where it stands, what it is called or fed by. */
export function replacePart(draft: BuildDocument, id: string, other: Omit<Part, "id">): void {
  const at = draft.parts.findIndex((part) => part.id === id);
  const old = draft.parts[at];
  if (!old || old.kind !== other.kind) return;
  const stays = ["face", "direction", "feed", "machine", "outline", "near", "outside", "inside", "count"] as const;
  const kept = Object.fromEntries(stays.filter((key) => key in old).map((key) => [key, old[key as keyof Part]]));
  draft.parts[at] = { ...structuredClone(other), ...kept, id, name: other.name ?? old.name } as Part;
}

/** Where heat goes that nothing else takes: the first box, else the first zone. */
export const firstBox = (document: BuildDocument) =>
  document.zones.find((zone) => zone.kind === "box") ?? document.zones[0];

/** What lies on the way of one source's heat, and goes with it. */
const ON_A_WAY: PartKind[] = ["interface", "spreader", "heat_pipe"];

const partsOn = (routes: BuildDocument["routes"]): string[] =>
  routes.flatMap((route) => route.hops.flatMap((hop) => [...(hop.part ? [hop.part] : []), ...(hop.parts ?? [])]));

/** Take a part out of the build and of everything that names it, a source with what lies on its way alone. Routes that end
 * in it end in the first box's air. */
export function removePart(draft: BuildDocument, id: string): void {
  const places = new Set(placesOf(draft, id).map((place) => place.id));
  dropLocks(draft, id);
  draft.parts = draft.parts.filter((p) => p.id !== id);
  if (draft.bonds) draft.bonds = draft.bonds.filter((bond) => bond.first !== id && bond.second !== id);
  for (const loop of draft.loops) loop.elements = without(loop.elements, id);
  for (const path of draft.air_paths) path.elements = without(path.elements, id);
  draft.air_paths = draft.air_paths.filter((path) => path.elements.length);
  const left = new Set(draft.air_paths.map((path) => path.id));
  draft.recirculations = draft.recirculations.filter((mix) => left.has(mix.from_path) && left.has(mix.to_path));
  const gone = draft.routes.filter((route) => places.has(route.place));
  draft.routes = draft.routes.filter((route) => !gone.includes(route));
  const used = new Set(partsOn(draft.routes));
  const alone = new Set(partsOn(gone).filter((part) => !used.has(part)));
  draft.parts = draft.parts.filter((part) => !(alone.has(part.id) && ON_A_WAY.includes(part.kind)));
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
  leaveFit(draft);
  leaveOrder(draft);
}
