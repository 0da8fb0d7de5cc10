/** What a build sheet shows of its steps: how each stands, what it waits for, how threads run past it. */
import type { Schemas } from "$lib/api/client";
import type { Mark } from "$lib/state/standing";
import { midnight } from "$lib/units/format";

export type Sheet = Schemas["BuildSheet"];
export type Step = Schemas["WorkStep"];
export type Thread = Schemas["Thread"];
export type StepState = "done" | "failed" | "now" | "open" | "waits";
export type ThreadAt = "none" | "begins" | "runs" | "seen" | "hidden" | "past";

type Standing = ReadonlyMap<string, Mark>;

const isDone = (standing: Standing, id: string) => standing.get(id)?.kind === "done";

/** Gates that failed and were not passed since: they block everything after them. */
export const failedGates = (steps: Step[], standing: Standing): Step[] =>
  steps.filter((step) => step.gate && standing.get(step.id)?.kind === "failed");

/** Steps that a step waits for: those before it by a rule that are not done, and failed gates above it. */
export function waitsFor(step: Step, steps: Step[], standing: Standing): Step[] {
  const at = steps.indexOf(step);
  const before = new Set(step.because.map((why) => why.step));
  return steps.filter(
    (other, i) =>
      other !== step &&
      !isDone(standing, other.id) &&
      (before.has(other.id) || (i < at && other.gate && standing.get(other.id)?.kind === "failed")),
  );
}

/** The first step that can be done now; null when all are. */
export function currentStep(steps: Step[], standing: Standing): Step | null {
  const open = steps.filter((step) => !isDone(standing, step.id));
  return open.find((step) => standing.get(step.id)?.kind === "failed") ?? open[0] ?? null;
}

export function stateOf(step: Step, steps: Step[], standing: Standing, current: Step | null): StepState {
  const kind = standing.get(step.id)?.kind;
  if (kind === "done") return "done";
  if (kind === "failed") return "failed";
  if (step === current) return "now";
  return waitsFor(step, steps, standing).length ? "waits" : "open";
}

/** How a thread runs past a row. */
export function threadAt(thread: Thread, step: Step, steps: Step[]): ThreadAt {
  const at = steps.indexOf(step);
  const begins = steps.findIndex((one) => one.id === thread.step);
  const hidden = steps.findIndex((one) => one.id === thread.hidden_by);
  if (at < begins) return "none";
  if (at === begins) return "begins";
  if (at === hidden) return "hidden";
  if (at > hidden) return "past";
  return step.gate && step.sees.includes(thread.thing) ? "seen" : "runs";
}

/** Threads worth drawing: what the last panel hides is drawn only where a gate looks at it. */
export const drawn = (threads: Thread[], steps: Step[]): Thread[] =>
  threads.filter(
    (thread) =>
      thread.hidden_by !== "close-panels" || steps.some((step) => step.gate && step.sees.includes(thread.thing)),
  );

/** A gate that stands after what hides the things it sees cannot see them any more. */
export const isTooLate = (step: Step, threads: Thread[], steps: Step[]): boolean =>
  step.gate && threads.some((thread) => step.sees.includes(thread.thing) && threadAt(thread, step, steps) === "past");

/** Minutes used on steps, as told with their ticks. */
export const minutesUsed = (standing: Standing): number =>
  [...standing.values()].reduce((sum, mark) => sum + (mark.kind === "done" ? (mark.minutes ?? 0) : 0), 0);

export const minutesLeft = (steps: Step[], standing: Standing): number =>
  steps.reduce((sum, step) => sum + (isDone(standing, step.id) ? 0 : step.minutes), 0);

/** "1 h 50 min", "25 min", "17 h". */
export function spell(minutes: number): string {
  const whole = Math.round(minutes);
  const hours = Math.floor(whole / 60);
  const rest = whole % 60;
  if (!hours) return `${rest} min`;
  return rest ? `${hours} h ${rest} min` : `${hours} h`;
}

/** Minutes since the tick before, at most four hours: what a step took, as a first guess. */
export function tookSince(last: number | null, now: number): number | undefined {
  if (last === null) return undefined;
  const minutes = (now - last) / 60_000;
  return minutes >= 1 && minutes <= 240 ? Math.round(minutes) : undefined;
}

export const STOCK: [NonNullable<Schemas["PartRow"]["stock"]>, string][] = [
  ["in_hand", "in hand"],
  ["ordered", "ordered"],
  ["to_buy", "to buy"],
];

/** Days that an ordered part is late by; 0 where it is not. */
export function lateBy(row: Schemas["PartRow"], today: Date): number {
  if (row.stock !== "ordered" || !row.due_on) return 0;
  const due = midnight(row.due_on).getTime();
  return Math.max(0, Math.floor((today.getTime() - due) / 86_400_000));
}
