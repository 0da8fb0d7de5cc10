import { fixed } from "./format";

/** Seconds in words: below two minutes as seconds, below two hours as minutes. */
export function lasting(seconds: number): string {
  if (seconds < 10) return `${fixed(seconds, 1)} s`;
  if (seconds < 120) return `${fixed(seconds, 0)} s`;
  return seconds < 7200 ? `${fixed(seconds / 60, 0)} min` : `${fixed(seconds / 3600, 1)} h`;
}

/** Minutes worth planning: rounded up to five, and to a half hour from two hours on. */
export function planned(minutesNeeded: number): number {
  const step = minutesNeeded < 120 ? 5 : 30;
  return Math.max(step * Math.ceil(minutesNeeded / step), 5);
}
