import { describe, expect, it } from "vitest";
import { standing, timersOf, type Mark } from "$lib/state/standing";
import {
  currentStep,
  drawn,
  failedGates,
  isTooLate,
  lateBy,
  minutesLeft,
  minutesUsed,
  spell,
  stateOf,
  threadAt,
  tookSince,
  waitsFor,
  type Step,
  type Thread,
} from "./sheet";

const step = (id: string, more: Partial<Step> = {}): Step => ({
  id,
  kind: "other",
  name: id,
  number: 1,
  gate: false,
  items: [],
  tool: "",
  side: "",
  minutes: 10,
  torque_nm: null,
  note: "",
  because: [],
  hides: [],
  sees: [],
  before: null,
  watch_h: null,
  looks_h: [],
  ...more,
});
const after = (...ids: string[]) => ids.map((id) => ({ step: id, why: "so", of: "usual" as const }));
let at = 0;
const mark = (about: string, kind: Mark["kind"], more: Partial<Mark> = {}): Mark => ({
  id: (at += 1),
  key: `key-${at}`,
  about,
  kind,
  word: "",
  minutes: null,
  at: new Date(Date.UTC(2026, 10, 29, 12, at)).toISOString(),
  who: "mara",
  ...more,
});
const STEPS = [
  step("board"),
  step("memory", { because: after("board") }),
  step("gate", { gate: true, number: null, sees: ["memory"], because: after("memory") }),
  step("radiator", { because: after("gate") }),
  step("lid", { because: after("radiator") }),
];
const thread = (thing: string, by: string): Thread => ({
  thing,
  name: thing,
  step: thing,
  hidden_by: by,
  why: "covers",
  undo: { steps: [], minutes: 0, whole: false },
});

describe("how steps stand", () => {
  it("takes the newest mark of a thing", () => {
    const found = standing([
      mark("board", "done"),
      mark("board", "undone"),
      mark("memory", "failed"),
      mark("x", "read"),
    ]);
    expect([...found].map(([id, one]) => [id, one.kind])).toEqual([
      ["board", "undone"],
      ["memory", "failed"],
    ]);
  });

  it("goes on with the first that is not done, and stays at one that failed", () => {
    expect(currentStep(STEPS, standing([]))?.id).toBe("board");
    expect(currentStep(STEPS, standing([mark("board", "done")]))?.id).toBe("memory");
    const failed = standing([mark("board", "done"), mark("gate", "failed")]);
    expect(currentStep(STEPS, failed)?.id).toBe("gate");
    expect(currentStep(STEPS, standing(STEPS.map((one) => mark(one.id, "done"))))).toBeNull();
  });

  it("waits for what comes before and for failed gates above", () => {
    const none = standing([]);
    expect(waitsFor(STEPS[1]!, STEPS, none).map((one) => one.id)).toEqual(["board"]);
    expect(waitsFor(STEPS[0]!, STEPS, none)).toEqual([]);
    const failed = standing([mark("gate", "failed")]);
    expect(waitsFor(STEPS[4]!, STEPS, failed).map((one) => one.id)).toEqual(["gate", "radiator"]);
    expect(failedGates(STEPS, failed).map((one) => one.id)).toEqual(["gate"]);
    const passed = standing([mark("gate", "failed"), mark("gate", "done")]);
    expect(failedGates(STEPS, passed)).toEqual([]);
  });

  it("names the state of each", () => {
    const marks = standing([mark("board", "done"), mark("gate", "failed")]);
    const current = currentStep(STEPS, marks);
    expect(STEPS.map((one) => stateOf(one, STEPS, marks, current))).toEqual([
      "done",
      "open",
      "failed",
      "waits",
      "waits",
    ]);
    expect(stateOf(STEPS[0]!, STEPS, standing([]), STEPS[0]!)).toBe("now");
  });
});

describe("threads", () => {
  it("begin, run, are seen, are hidden and are past", () => {
    const one = thread("memory", "radiator");
    expect(STEPS.map((row) => threadAt(one, row, STEPS))).toEqual(["none", "begins", "seen", "hidden", "past"]);
    expect(threadAt(thread("board", "lid"), STEPS[2]!, STEPS)).toBe("runs");
  });

  it("of the last panel are drawn only where a gate looks", () => {
    const threads = [thread("memory", "close-panels"), thread("board", "close-panels"), thread("board", "radiator")];
    expect(drawn(threads, STEPS)).toEqual([threads[0], threads[2]]);
  });

  it("tell of a gate that comes too late", () => {
    const [board, memory, gate, radiator, lid] = STEPS as [Step, Step, Step, Step, Step];
    const late = [board, memory, radiator, gate, lid];
    expect(isTooLate(gate, [thread("memory", "radiator")], late)).toBe(true);
    expect(isTooLate(gate, [thread("memory", "radiator")], STEPS)).toBe(false);
    expect(isTooLate(radiator, [thread("memory", "radiator")], late)).toBe(false);
  });
});

describe("time", () => {
  it("counts what was used and what is left", () => {
    const marks = standing([mark("board", "done", { minutes: 25 }), mark("memory", "failed", { minutes: 99 })]);
    expect(minutesUsed(marks)).toBe(25);
    expect(minutesLeft(STEPS, marks)).toBe(40);
  });

  it("spells minutes and guesses how long a step took", () => {
    expect([spell(25), spell(60), spell(110), spell(59.6)]).toEqual(["25 min", "1 h", "1 h 50 min", "1 h"]);
    expect(tookSince(null, 0)).toBeUndefined();
    expect(tookSince(0, 59_000)).toBeUndefined();
    expect(tookSince(0, 60_000)).toBe(1);
    expect(tookSince(0, 240 * 60_000)).toBe(240);
    expect(tookSince(0, 241 * 60_000)).toBeUndefined();
  });

  it("runs timers until they are stopped, ticked or failed", () => {
    const watch = mark("leak", "timer", { minutes: 60, word: "Leak watch" });
    const [timer] = timersOf([watch]);
    expect(timer!.rings - timer!.started).toBe(3_600_000);
    for (const kind of ["stopped", "done", "failed"] as const)
      expect(timersOf([watch, mark("leak", kind)])).toEqual([]);
    expect(timersOf([watch, mark("board", "done")])).toHaveLength(1);
    expect(timersOf([watch, mark("leak", "timer", { minutes: 5 })])).toHaveLength(1);
  });

  it("knows what is late", () => {
    const part = { stock: "ordered", due_on: "2026-11-20" } as Parameters<typeof lateBy>[0];
    expect(lateBy(part, new Date("2026-11-29T12:00:00"))).toBe(9);
    expect(lateBy(part, new Date("2026-11-20T12:00:00"))).toBe(0);
    expect(lateBy({ ...part, stock: "in_hand" }, new Date("2026-11-29T12:00:00"))).toBe(0);
    expect(lateBy({ ...part, due_on: null }, new Date("2026-11-29T12:00:00"))).toBe(0);
  });
});
