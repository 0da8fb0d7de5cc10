/** What holds parts up, and what lies beside hot ones. */
import { placesOf, type BuildDocument, type Holding, type NearHeat } from "./build";
import { freeId } from "./ids";

/** Joints that carry by their area; the rest by their number. */
export const GLUED: readonly Holding["by"][] = [
  "foam_tape",
  "thermal_tape",
  "hot_glue",
  "hook_strip",
  "contact_glue",
  "silicone",
  "superglue",
  "epoxy_fast",
  "epoxy_slow",
  "thermal_glue",
];

export function addHolding(draft: BuildDocument, part: string, by: Holding["by"]): string {
  const id = freeId(draft, `holds-${part}`);
  draft.holdings.push({ id, parts: [part], by, ...(GLUED.includes(by) ? { area_cm2: 10 } : { count: 1 }) });
  return id;
}

export function changeHolding(draft: BuildDocument, id: string, change: Partial<Holding>): void {
  const holding = draft.holdings.find((one) => one.id === id);
  if (!holding) return;
  Object.assign(holding, change);
  if (GLUED.includes(holding.by)) holding.area_cm2 ??= 10;
}

export function removeHolding(draft: BuildDocument, id: string): void {
  draft.holdings = draft.holdings.filter((one) => one.id !== id);
}

export function addNearHeat(draft: BuildDocument, what: NearHeat["what"], near: string): void {
  draft.near_heat.push({ id: freeId(draft, `${what}-by-${near}`), what, near });
}

export function changeNearHeat(draft: BuildDocument, id: string, change: Partial<NearHeat>): void {
  const one = draft.near_heat.find((item) => item.id === id);
  if (one) Object.assign(one, change);
}

export function removeNearHeat(draft: BuildDocument, id: string): void {
  draft.near_heat = draft.near_heat.filter((one) => one.id !== id);
}

/** What names a part that is gone, or a place in it, goes with it. */
export function leaveHoldings(draft: BuildDocument, there: ReadonlySet<string>): void {
  const warm = new Set([...there, ...placesOf(draft).map((place) => place.id), ...draft.zones.map((zone) => zone.id)]);
  for (const holding of draft.holdings) {
    holding.parts = holding.parts.filter((part) => there.has(part));
    if (holding.near && !warm.has(holding.near)) holding.near = null;
  }
  draft.holdings = draft.holdings.filter((holding) => holding.parts.length);
  draft.near_heat = draft.near_heat.filter((one) => warm.has(one.near));
}
