import { describe, expect, it } from "vitest";
import { emptyBuild } from "./empty";
import { belongTo, NEW_MACHINE } from "./machines";
import { addParts } from "./parts";

describe("machines in one housing", () => {
  it("come with the first part of theirs and go with the last", () => {
    const draft = emptyBuild("t", 22);
    const [one, two] = addParts(draft, { kind: "supply", name: "Supply" } as never, 2);
    belongTo(draft, one!, NEW_MACHINE);
    belongTo(draft, two!, NEW_MACHINE);
    expect(draft.machines).toEqual([
      { id: "machine-a", name: "Machine A" },
      { id: "machine-b", name: "Machine B" },
    ]);
    belongTo(draft, two!, "machine-a");
    expect(draft.machines).toEqual([{ id: "machine-a", name: "Machine A" }]);
    expect(draft.parts.map((part) => part.machine)).toEqual(["machine-a", "machine-a"]);
    belongTo(draft, one!, "");
    belongTo(draft, two!, "");
    expect(draft.machines).toEqual([]);
    expect(draft.parts[0]).not.toHaveProperty("machine");
  });
});
