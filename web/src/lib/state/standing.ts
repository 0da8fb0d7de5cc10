/** How things stand by their marks, and which timers run. */
import type { Schemas } from "../api/client";

export type Mark = Schemas["MarkOut"];

export const iso = (ms: number): string => new Date(ms).toISOString();

/** How things stand by their marks: the newest of done, not done any more, did not work. */
export function standing(marks: Mark[]): Map<string, Mark> {
  const found = new Map<string, Mark>();
  for (const mark of marks)
    if (mark.kind === "done" || mark.kind === "undone" || mark.kind === "failed") found.set(mark.about, mark);
  return found;
}

export type Timer = { about: string; started: number; rings: number; word: string };

/** Timers that were started and neither stopped nor ticked since; times in ms of the server's clock. */
export function timersOf(marks: Mark[]): Timer[] {
  const running = new Map<string, Timer>();
  for (const mark of marks) {
    if (mark.kind === "timer" && mark.minutes !== null) {
      const started = Date.parse(mark.at);
      running.set(mark.about, { about: mark.about, started, rings: started + mark.minutes * 60_000, word: mark.word });
    } else if (["stopped", "done", "failed"].includes(mark.kind)) running.delete(mark.about);
  }
  return [...running.values()];
}
