/** Changes of the ways that heat goes: layers, blocks and pipes in a route, where it ends, seams between bodies. */
import { freeId } from "./ids";
import { addParts, estimate, firstBox, type NewPart } from "./parts";
import type { BuildDocument, Hop } from "./build";

/** What may be put between a place and the end of its way. */
export const BETWEEN: Record<string, Extract<NewPart, { kind: "interface" | "spreader" | "heat_pipe" }>> = {
  "an interface": { kind: "interface", name: "Interface", class: "paste_ordinary_lid" },
  "a block": { kind: "spreader", name: "Block", class: "block_kit" },
  "heat pipes": {
    kind: "heat_pipe",
    name: "Heat pipes",
    class: "pipe_8_sintered",
    count: 3,
    bends: 1,
    evaporator_mm: estimate(40, "10%"),
    adiabatic_mm: estimate(60, "20%"),
    condenser_mm: estimate(120, "10%"),
  },
};

/** Put a new layer, block or group of pipes into a route, before the hop at a position. */
export function insertHop(draft: BuildDocument, routeId: string, position: number, what: string): void {
  const route = draft.routes.find((r) => r.id === routeId);
  const part = BETWEEN[what];
  if (!route || !part) return;
  const [id] = addParts(draft, part, 1);
  const hop: Hop =
    part.kind === "heat_pipe"
      ? { id: freeId(draft, `${route.place}-pipes`), kind: "pipes", parts: [id!] }
      : { id: freeId(draft, `${route.place}-${id}`), kind: part.kind, part: id! };
  route.hops.splice(position, 0, hop);
}

/** Take a hop out of a route, with its part where nothing else uses it. The end of a route stays. */
export function removeHop(draft: BuildDocument, routeId: string, hopId: string): void {
  const route = draft.routes.find((r) => r.id === routeId);
  const hop = route?.hops.find((h) => h.id === hopId);
  if (!route || !hop || hop === route.hops.at(-1)) return;
  route.hops = route.hops.filter((h) => h !== hop);
  const used = new Set(draft.routes.flatMap((r) => r.hops.flatMap((h) => [h.part, ...(h.parts ?? [])])));
  const gone = [hop.part, ...(hop.parts ?? [])].filter((id) => id && !used.has(id));
  draft.parts = draft.parts.filter((part) => !gone.includes(part.id));
}

/** A second group of heat pipes beside one, alike until its lengths are changed. Answers its id. */
export function addPipeGroup(draft: BuildDocument, pipeId: string): string | null {
  const hop = draft.routes.flatMap((route) => route.hops).find((h) => h.parts?.includes(pipeId));
  const part = draft.parts.find((p) => p.id === pipeId);
  if (!hop?.parts || !part) return null;
  const [id] = addParts(draft, { ...part, name: `${part.name ?? "Heat pipes"}, other length` }, 1);
  hop.parts = [...hop.parts, id!];
  return id!;
}

/** Let a route end in a body, or in a zone's air. */
export function endRoute(draft: BuildDocument, routeId: string, end: string): void {
  const route = draft.routes.find((r) => r.id === routeId);
  const [kind, id] = end.split(":") as ["body" | "air" | "plate" | "stream", string];
  const last = route?.hops.at(-1);
  if (!route || !last) return;
  const next: Hop = { id: last.id, kind, ...(kind === "air" ? { zone: id } : { part: id }) };
  route.hops[route.hops.length - 1] = next;
}

export const bondsOf = (document: BuildDocument) => document.bonds ?? [];

/** Join two bodies along a seam, or part them where they are joined. */
export function toggleBond(draft: BuildDocument, first: string, second: string, seamMm: number): void {
  const kept = bondsOf(draft).filter(
    (b) => ![b.first, b.second].includes(first) || ![b.first, b.second].includes(second),
  );
  const id = freeId(draft, `seam-${first}-${second}`);
  const joined = kept.length < bondsOf(draft).length;
  draft.bonds = joined ? kept : [...kept, { id, first, second, seam_mm: estimate(seamMm, "10%") }];
}

/** A way beside the named one: through the board into the first box's air. */
export function addSideWay(draft: BuildDocument, place: string): void {
  const zone = firstBox(draft);
  if (!zone) return;
  const id = freeId(draft, `route-${place}-board`);
  const hop: Hop = { id: freeId(draft, `${place}-board`), kind: "air", zone: zone.id, name: "Through the board" };
  hop.resistance_k_w = { value: 12, plus_minus: "25%", from: "rule_of_thumb" };
  draft.routes.push({ id, place, hops: [hop] });
}
