/** Edits as the server states them, made on a draft: a field of what an id belongs to, or a part more, other or less. */
import { setField } from "./addresses";
import { ownerOf, type BuildDocument, type Part } from "./build";

export type Edit = { target: string; field: string; value: unknown };

function editParts(draft: BuildDocument, field: string, value: unknown): void {
  const part = value as Part;
  if (field === "+") draft.parts.push(structuredClone(part));
  else if (field === "=") draft.parts = draft.parts.map((old) => (old.id === part.id ? structuredClone(part) : old));
  else {
    draft.parts = draft.parts.filter((old) => old.id !== value);
    for (const workload of draft.workloads) delete workload.movers?.[value as string];
  }
}

export function makeEdits(draft: BuildDocument, edits: Edit[]): void {
  for (const { target, field, value } of edits) {
    if (target === "parts") {
      editParts(draft, field, value);
      continue;
    }
    const owner = target === "housing" || target === "brief" ? (draft[target] ??= {}) : ownerOf(draft, target);
    if (owner) setField(owner, field, structuredClone(value));
  }
}
