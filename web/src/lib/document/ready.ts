/** Something to buy instead, with the figures that somebody states of it. */
import { freeId } from "./assembly";
import type { BuildDocument } from "./build";

export type ReadyMade = {
  id: string;
  name: string;
  price?: number;
  height_mm?: number;
  mass_g?: number;
  level_dba?: number;
  power_w?: number;
  work_hours?: number;
  over_room_k?: Record<string, number>;
  note?: string;
};

export const readyMade = (document: BuildDocument | null): ReadyMade[] =>
  (document?.["ready_made"] as ReadyMade[] | undefined) ?? [];

/** Put one among those of the build; its id. What was left empty is not stored: it is unknown. */
export function addReadyMade(draft: BuildDocument, idea: Omit<ReadyMade, "id">): string {
  const id = freeId(draft, "ready-made");
  const given = Object.fromEntries(Object.entries(idea).filter(([, value]) => value !== undefined && value !== ""));
  draft["ready_made"] = [...readyMade(draft), { id, ...given }];
  return id;
}
