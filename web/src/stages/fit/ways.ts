/** Ways out of a slot that is too tight: the same part in a thinner kind, and what each leaves. */
import type { BuildDocument, Slot } from "$lib/document/build";
import { partOf } from "$lib/document/fit";
import type { Schemas } from "$lib/api/client";
import type { StackFit } from "./words";

export type WayOut = { label: string; leftMm: number; change: (draft: BuildDocument) => void };

const RADIATORS = [28, 38, 45, 60];

type ClassRow = Pick<Schemas["ClassOut"], "id" | "name" | "kind" | "figures">;

/** Exchanges of one part of a stack that leave more than it does, those that fit with the least change first. */
export function waysOut(document: BuildDocument, slot: Slot, fit: StackFit, classes: readonly ClassRow[]): WayOut[] {
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
