/** Several machines in one housing: which one a part belongs to. */
import type { BuildDocument } from "./build";
import { freeId } from "./ids";

export const NEW_MACHINE = "new";

/** Let a part belong to a machine, to a new one, or to none; machines that nothing belongs to any more go. */
export function belongTo(draft: BuildDocument, partId: string, machine: string): void {
  const part = draft.parts.find((one) => one.id === partId);
  if (!part) return;
  if (machine === NEW_MACHINE) {
    const name = `Machine ${String.fromCharCode(65 + (draft.machines?.length ?? 0))}`;
    const id = freeId(draft, name);
    draft.machines = [...(draft.machines ?? []), { id, name }];
    part.machine = id;
  } else if (machine) part.machine = machine;
  else delete part.machine;
  const left = new Set(draft.parts.map((one) => one.machine));
  if (draft.machines) draft.machines = draft.machines.filter((one) => left.has(one.id));
}
