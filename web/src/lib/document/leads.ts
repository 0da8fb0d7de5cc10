/** Leads and tubes in space: from which part to which, through which points, how they end. */
import type { BuildDocument, Lead, LeadEnd, Part } from "./build";
import { leaves } from "./elements";
import type { Point } from "./fit";
import { FACES } from "./housing";
import { freeId } from "./ids";

const leadOf = (draft: BuildDocument, id: string) => draft.leads.find((lead) => lead.id === id);
const tenth = (at: Point) => at.map((mm) => Math.round(mm * 10) / 10) as Point;

/** Where a part stands, if it does. */
const middleOf = (document: BuildDocument, id: string) =>
  document.parts.find((part) => part.id === id)?.outline?.position_mm as Point | null | undefined;

/** A lead between two parts; straight from middle to middle where both have a place. */
export function addLead(draft: BuildDocument, from: string, to: string, kind: Partial<Lead>): string {
  const id = freeId(draft, `${kind.tube ? "tube" : "lead"}-${from}-${to}`);
  const ends = [middleOf(draft, from), middleOf(draft, to)];
  const points = ends.every((end): end is Point => !!end) ? ends.map((end) => tenth(end as Point)) : [];
  draft.leads.push({ id, from_part: from, to_part: to, points_mm: points, ...kind });
  return id;
}

export function changeLead(draft: BuildDocument, id: string, change: Partial<Lead>): void {
  const lead = leadOf(draft, id);
  if (lead) Object.assign(lead, change);
}

export function changeEnd(draft: BuildDocument, id: string, side: "begins" | "ends", change: LeadEnd): void {
  const lead = leadOf(draft, id);
  if (lead) lead[side] = { ...lead[side], ...change };
}

/** One more point half way to the next one, or a first pair. */
export function addPoint(draft: BuildDocument, id: string, after: number): void {
  const lead = leadOf(draft, id);
  if (!lead) return;
  const points = [...((lead.points_mm ?? []) as Point[])];
  if (points.length < 2) lead.points_mm = [points[0] ?? [0, 0, 0], [100, 0, 0]];
  else {
    const at = Math.min(after, points.length - 2);
    const middle = points[at]!.map((mm, axis) => (mm + points[at + 1]![axis]!) / 2) as Point;
    points.splice(at + 1, 0, tenth(middle));
    lead.points_mm = points;
  }
}

export function movePoint(draft: BuildDocument, id: string, at: number, axis: number, mm: number): void {
  const lead = leadOf(draft, id);
  const point = lead?.points_mm?.[at];
  if (lead?.points_mm && point) lead.points_mm[at] = (point as Point).map((old, i) => (i === axis ? mm : old)) as Point;
}

export function takePoint(draft: BuildDocument, id: string, at: number): void {
  const lead = leadOf(draft, id);
  if (lead?.points_mm) lead.points_mm = lead.points_mm.filter((_, i) => i !== at);
}

/** The obstacle of an air path that leads make; nothing where none crosses it yet. */
export const acrossOf = (document: BuildDocument, path: string) =>
  document.parts.find(
    (part) =>
      part.kind === "obstacle" &&
      !!part.leads?.length &&
      leaves(document.air_paths.find((one) => one.id === path)?.elements ?? []).includes(part.id),
  );

/** A lead crosses the air of a path: with others that do, it is what stands in the way there, of a section in cm². */
export function blockAir(draft: BuildDocument, id: string, pathId: string, areaCm2: number): void {
  const path = draft.air_paths.find((one) => one.id === pathId);
  const there = acrossOf(draft, pathId);
  if (!path || !leadOf(draft, id)) return;
  if (there?.kind === "obstacle") {
    there.leads = [...new Set([...(there.leads ?? []), id])];
    return;
  }
  const obstacle = freeId(draft, `leads-in-${path.name || path.id}`);
  const area = { value: areaCm2, plus_minus: "15%", from: "estimate" as const };
  draft.parts.push({ id: obstacle, kind: "obstacle", name: "Leads across", area_cm2: area, leads: [id] } as Part);
  path.elements = [...path.elements, obstacle];
}

export function removeLead(draft: BuildDocument, id: string): void {
  draft.leads = draft.leads.filter((lead) => lead.id !== id);
  for (const part of draft.parts)
    if (part.kind === "obstacle" && part.leads?.includes(id)) {
      part.leads = part.leads.filter((lead) => lead !== id);
      if (!part.leads.length) part.blocked_share ??= { value: 0.1, plus_minus: "50%", from: "estimate" };
    }
}

/** Leads of parts that are gone go with them. */
export function leaveLeads(draft: BuildDocument, there: ReadonlySet<string>): void {
  for (const lead of [...draft.leads]) {
    if (!there.has(lead.from_part) || !there.has(lead.to_part)) removeLead(draft, lead.id);
    else if (lead.tube && !there.has(lead.tube)) lead.tube = null;
  }
  draft.insulators = draft.insulators.filter((sheet) =>
    [sheet.first, sheet.second].every((side) => (FACES as string[]).includes(side) || there.has(side)),
  );
  for (const loop of draft.loops) {
    if (loop.fill && !there.has(loop.fill)) loop.fill = null;
    if (loop.drain && !there.has(loop.drain)) loop.drain = null;
  }
}
