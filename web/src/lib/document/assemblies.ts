/** Assemblies (a card with its ways, a radiator with its fans) put into a build in one step. */
import type { Schemas } from "../api/client";
import type { BuildDocument } from "./build";
import { insert } from "./elements";
import { freeId } from "./ids";
import { addLoop } from "./loops";
import { firstBox } from "./parts";

export type Assembly = Schemas["AssemblyOut"];
type Json = Record<string, unknown>;

/** keys whose text, or list of texts, names something by its id */
const NAMES = ["id", "part", "place", "zone", "from_zone", "to_zone", "sensor", "inside", "outside", "room"];
const LISTS = ["elements", "parallel", "parts", "into_loop"];

/** Why an assembly cannot be put in yet; nothing where it can. */
export const missingFor = (document: BuildDocument, assembly: Assembly): string =>
  document.zones.some((zone) => zone.kind === "box") || !says(assembly).includes("box")
    ? ""
    : "It breathes a box: add a chamber first";

const says = (assembly: Assembly): string[] =>
  assembly.air_paths.flatMap((path) => [String(path["from_zone"]), String(path["to_zone"])]);

/** Put an assembly in; ids that are taken are changed, its loop elements go before the last of the first loop. */
export function putAssembly(draft: BuildDocument, assembly: Assembly): void {
  const ids = idsFor(draft, assembly);
  const put = <T>(list: Json[]) => list.map((item) => renamed(item, ids) as T);
  draft.parts.push(...put<BuildDocument["parts"][number]>(assembly.parts));
  draft.zones.push(...put<BuildDocument["zones"][number]>(assembly.zones));
  draft.air_paths.push(...put<BuildDocument["air_paths"][number]>(assembly.air_paths));
  draft.loops.push(...put<BuildDocument["loops"][number]>(assembly.loops));
  draft.routes.push(...put<BuildDocument["routes"][number]>(assembly.routes));
  intoLoop(
    draft,
    assembly.into_loop.map((id) => ids.get(id) ?? id),
  );
  for (const workload of draft.workloads) {
    workload.movers = { ...workload.movers, ...byId(assembly.movers, ids) } as typeof workload.movers;
    workload.watts = { ...workload.watts, ...byId(assembly.watts, ids) } as typeof workload.watts;
  }
}

function intoLoop(draft: BuildDocument, elements: string[]): void {
  if (!elements.length) return;
  if (!draft.loops.length) addLoop(draft, "Loop", "pump_strong");
  const loop = draft.loops[0]!;
  loop.elements = insert(loop.elements, elements, false, Math.max(loop.elements.length - 1, 0));
}

/** An id of the build for each one of the assembly; its box, room and outside are those that are there. */
function idsFor(draft: BuildDocument, assembly: Assembly): Map<string, string> {
  const ids = new Map<string, string>([
    ["box", firstBox(draft)?.id ?? "box"],
    ["outside", draft.zones.find((zone) => zone.kind === "outside")?.id ?? "outside"],
    ["room", draft.rooms[0]?.id ?? "room"],
  ]);
  const taken = structuredClone(draft);
  const { parts, zones, air_paths, loops, routes } = assembly;
  for (const item of [...parts, ...zones, ...air_paths, ...loops, ...routes]) {
    for (const id of idsIn(item)) {
      const free = freeId(taken, id);
      ids.set(id, free);
      taken.zones.push({ id: free } as BuildDocument["zones"][number]);
    }
  }
  return ids;
}

function idsIn(value: unknown): string[] {
  if (Array.isArray(value)) return value.flatMap(idsIn);
  if (typeof value !== "object" || value === null) return [];
  return Object.entries(value).flatMap(([key, inner]) => (key === "id" ? [String(inner)] : idsIn(inner)));
}

function renamed(value: unknown, ids: Map<string, string>, key = ""): unknown {
  if (typeof value === "string") return NAMES.includes(key) || LISTS.includes(key) ? (ids.get(value) ?? value) : value;
  if (Array.isArray(value)) return value.map((item) => renamed(item, ids, key));
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([inner, item]) => [inner, renamed(item, ids, inner)]));
}

const byId = (table: Record<string, Json>, ids: Map<string, string>): Record<string, unknown> =>
  Object.fromEntries(Object.entries(table).map(([id, told]) => [ids.get(id) ?? id, renamed(told, ids)]));
