import { describe, expect, it } from "vitest";
import { emptyBuild } from "./empty";
import { isLocked, lockName, locksOf, toggleLock } from "./locks";
import { addLoop } from "./loops";
import { removePart } from "./parts";

function withLoop() {
  const draft = emptyBuild("t", 22);
  addLoop(draft, "Loop", "pump_strong");
  return { draft, pump: draft.loops[0]!.elements[0] as string };
}

describe("locks", () => {
  it("are put on and taken off again", () => {
    const { draft, pump } = withLoop();
    toggleLock(draft, pump);
    toggleLock(draft, `${pump}/power_w`);
    expect(locksOf(draft)).toEqual([pump, `${pump}/power_w`]);
    toggleLock(draft, pump);
    expect(isLocked(draft, pump)).toBe(false);
    expect(isLocked(draft, `${pump}/power_w`)).toBe(true);
  });

  it("are told by the names of parts and figures", () => {
    const { draft, pump } = withLoop();
    expect(lockName(draft, pump)).toBe("Loop pump");
    expect(lockName(draft, `${pump}/shutoff_kpa`)).toBe("Loop pump: shut-off head");
    expect(lockName(draft, `movers/${pump}`)).toBe("Loop pump: duty");
    expect(lockName(draft, "gone/x")).toBe("gone");
  });

  it("go with the part that is taken out, and with it alone", () => {
    const { draft, pump } = withLoop();
    const [, tube] = draft.loops[0]!.elements as string[];
    for (const lock of [pump, `${pump}/power_w`, `movers/${pump}`, `${tube}/length_m`]) toggleLock(draft, lock);
    removePart(draft, pump);
    expect(locksOf(draft)).toEqual([`${tube}/length_m`]);
  });
});
