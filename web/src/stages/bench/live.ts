/** Arithmetic of a live run: lines of its channels over minutes of the load, and how long it has been on. */
import type { Schemas } from "$lib/api/client";

type InTime = Schemas["InTime"];
export type Curve = InTime["curves"][number];
export type Point = readonly [number, number];

/** The role whose readings a predicted curve is held against. */
export function roleOf(curve: Pick<Curve, "address" | "kind">): string {
  const statistic = { place: "temperature", coolant: "coolant_hot", air: "air", body: "touch" }[curve.kind];
  return `${curve.address}/${statistic}`;
}

/** Readings of a channel as (minute of the load, figure); before the load minutes are below 0. */
export function lineOf(
  rows: readonly (readonly (number | null)[])[],
  channels: readonly { role: string }[],
  role: string,
  loadOnMin: number,
): Point[] {
  const column = 1 + channels.findIndex((channel) => channel.role === role);
  if (column === 0) return [];
  return rows.flatMap((row) => (row[column] == null ? [] : [[row[0]! / 60 - loadOnMin, row[column]!] as const]));
}

/** Minutes and seconds as a clock shows them; hours are minutes. */
export function clockOf(minutes: number): string {
  const seconds = Math.max(Math.floor(60 * minutes + 1e-6), 0);
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
}

/** At most so many points, evenly taken, the last one among them. */
export function thinned(points: readonly Point[], most: number): Point[] {
  const stride = Math.max(1, Math.ceil(points.length / most));
  return points.filter((_, i) => i % stride === 0 || i === points.length - 1);
}

/** Which curves have readings, those with the least to spare first. */
export function readCurves(told: InTime | null, channels: readonly { role: string }[]): Curve[] {
  const roles = new Set(channels.map((channel) => channel.role));
  const spare = (curve: Curve) => (curve.limit_c === null ? Infinity : curve.limit_c - curve.settles_c);
  return (told?.curves ?? []).filter((curve) => roles.has(roleOf(curve))).sort((a, b) => spare(a) - spare(b));
}

/** The next minute at which to read, and how long until then; null once all are past. */
export function dueNext(due: readonly number[], minutes: number): { at: number; in: number } | null {
  const next = due.find((minute) => minute > minutes - 0.75);
  return next === undefined ? null : { at: next, in: next - minutes };
}
