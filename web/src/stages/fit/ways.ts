/** Ways out of a slot that is too tight: the same part in a thinner kind, and what each leaves. */
import { valueOf, type BuildDocument, type Part, type Slot } from "$lib/document/build";
import { partOf } from "$lib/document/fit";
import type { Schemas } from "$lib/api/client";
import { copyOf, exchange, type ShelfItem } from "$lib/state/shelf.svelte";
import type { StackFit } from "./words";

export type WayOut = { label: string; leftMm: number; change: (draft: BuildDocument) => void };

const RADIATORS = [28, 38, 45, 60];

type ClassRow = Pick<Schemas["ClassOut"], "id" | "name" | "kind" | "figures">;

/** Exchanges of one part of a stack that leave more than it does, those that fit with the least change first. */
export function waysOut(
  document: BuildDocument,
  slot: Slot,
  fit: StackFit,
  classes: readonly ClassRow[],
  shelf: readonly ShelfItem[] = [],
): WayOut[] {
  if (fit.left_mm === null) return [];
  const found: WayOut[] = [];
  for (const item of slot.stack ?? []) {
    const part = document.parts.find((one) => one.id === partOf(item));
    const standing = fit.standing.find((one) => one.part === part?.id);
    if (!part || !standing) continue;
    const left = (mm: number) => fit.left_mm! + standing.thickness_mm - mm;
    if (part.kind === "radiator")
      for (const mm of RADIATORS.filter((mm) => mm < standing.thickness_mm - 0.5))
        found.push({
          label: `${part.name || part.id}: ${standing.thickness_mm} → ${mm} mm`,
          leftMm: left(mm),
          change: (draft) => {
            const own = draft.parts.find((one) => one.id === part.id);
            if (own?.kind === "radiator") own.thickness_mm = mm;
          },
        });
    for (const own of shelf.filter((one) => (one.own || one.by) && isAlike(part, one, classes))) {
      const mm = lengthOf(own.part as Part, "thickness_mm", classes);
      if (mm === undefined || mm >= standing.thickness_mm - 0.1) continue;
      found.push({
        label: `${part.name || part.id}: ${own.name}, of the shelf`,
        leftMm: left(mm),
        change: (draft) => exchange(draft, part.id, copyOf(own)),
      });
    }
    const now = part.kind === "fan" ? classes.find((row) => row.id === part.class) : undefined;
    if (now)
      for (const row of classes) {
        const [size, thick] = [row.figures["size_mm"]?.[0], row.figures["thickness_mm"]?.[0]];
        if (row.kind !== "fan" || thick === undefined || size !== now.figures["size_mm"]?.[0]) continue;
        if (row.id.includes("blower") !== now.id.includes("blower") || thick >= standing.thickness_mm - 0.5) continue;
        found.push({
          label: `${part.name || part.id}: ${row.name}`,
          leftMm: left(thick),
          change: (draft) => {
            const own = draft.parts.find((one) => one.id === part.id);
            if (own?.kind === "fan") {
              own.class = row.id;
              own.thickness_mm = null;
            }
          },
        });
      }
  }
  return found.sort((a, b) => Number(b.leftMm > 0) - Number(a.leftMm > 0) || a.leftMm - b.leftMm).slice(0, 5);
}

/** A length of a part: stated, else its class's. */
function lengthOf(part: Part, field: "size_mm" | "thickness_mm", classes: readonly ClassRow[]): number | undefined {
  const stated = (part as Record<string, unknown>)[field] as Parameters<typeof valueOf>[0];
  return valueOf(stated) ?? classes.find((row) => row.id === part.class)?.figures[field]?.[0];
}

/** Whether what lies on the shelf goes where a part stands: a fan of its size, a radiator of its sections. */
function isAlike(part: Part, item: ShelfItem, classes: readonly ClassRow[]): boolean {
  const other = item.part as Part;
  if (part.kind === "fan" && other.kind === "fan") {
    const [a, b] = [lengthOf(part, "size_mm", classes), lengthOf(other, "size_mm", classes)];
    return a !== undefined && a === b;
  }
  return (
    part.kind === "radiator" &&
    other.kind === "radiator" &&
    part.section_mm === other.section_mm &&
    part.sections === other.sections
  );
}
