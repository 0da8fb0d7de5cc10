/** Something to buy instead, with the figures that somebody states of it. */
import { freeId } from "./ids";
import type { BuildDocument } from "./build";

export type ReadyMade = NonNullable<BuildDocument["ready_made"]>[number];

export const readyMade = (document: BuildDocument | null): ReadyMade[] => document?.ready_made ?? [];

/** Put one among those of the build; its id. What was left empty is not stored: it is unknown. */
export function addReadyMade(draft: BuildDocument, idea: Omit<ReadyMade, "id">): string {
  const id = freeId(draft, "ready-made");
  const given = Object.fromEntries(Object.entries(idea).filter(([, value]) => value !== undefined && value !== ""));
  draft.ready_made = [...readyMade(draft), { ...given, id, name: idea.name }];
  return id;
}
