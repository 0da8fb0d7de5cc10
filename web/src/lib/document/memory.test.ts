import { describe, expect, it } from "vitest";
import { emptyBuild } from "./empty";
import { isMemory, memoryWatts, takeMemory } from "./memory";
import { addSource } from "./sources";

const plain = { modules: 1, rate: 5200, volts: 1.1, twoSided: false, checked: false };

describe("memory's watts by its setting", () => {
  it("are those of a module at its generation's own rate and voltage", () => {
    expect(memoryWatts(plain)).toBeCloseTo(2.5);
    expect(memoryWatts({ ...plain, rate: 2666, volts: 1.2 })).toBeCloseTo(2.5);
    expect(memoryWatts({ ...plain, modules: 4 })).toBeCloseTo(10);
  });

  it("are 1.7 times that at 1.35 V and 6 400, as the class page has it", () => {
    expect(memoryWatts({ ...plain, rate: 6400, volts: 1.35 }) / 2.5).toBeCloseTo(1.7, 1);
  });

  it("know both sides of the generations", () => {
    expect(memoryWatts({ ...plain, rate: 3999, volts: 1.2 })).toBeCloseTo(2.5 * (0.45 + (0.55 * 3999) / 2666));
    expect(memoryWatts({ ...plain, rate: 4000 })).toBeCloseTo(2.5 * (0.45 + (0.55 * 4000) / 5200));
  });

  it("are more with chips on both sides and with check bits", () => {
    expect(memoryWatts({ ...plain, twoSided: true })).toBeCloseTo(3.5);
    expect(memoryWatts({ ...plain, checked: true })).toBeCloseTo(2.8);
  });

  it("go into one workload, with their tolerance", () => {
    const draft = emptyBuild("t", 22);
    const end = { kind: "air", zone: "box" } as const;
    addSource(draft, { name: "Memory", watts: 4, placeClass: "memory_pair", limitC: 85, interfaceClass: "", end });
    const memory = draft.parts.find((part) => part.kind === "source")!;
    expect(isMemory(memory)).toBe(true);
    takeMemory(draft, memory.id, "full", 6.789);
    expect(draft.workloads[0]!.watts[memory.id]).toEqual({ value: 6.79, plus_minus: "25%", from: "rule_of_thumb" });
  });
});
