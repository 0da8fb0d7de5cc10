/** Scales and ticks of charts: plain numbers in, plain numbers out. */
import { scaleLinear, type ScaleLinear } from "d3-scale";
import { line } from "d3-shape";

export type Span = readonly [number, number];
export type Scale = ScaleLinear<number, number>;

/** Lowest and highest of the known values with a little room around them. */
export function spanOf(values: readonly (number | null)[], least = 0.5): Span {
  const known = values.filter((value): value is number => value !== null);
  if (!known.length) return [0, 1];
  const low = known.reduce((a, b) => Math.min(a, b), Infinity);
  const high = known.reduce((a, b) => Math.max(a, b), -Infinity);
  const pad = Math.max((high - low) * 0.04, least);
  return [low - pad, high + pad];
}

/** A span laid onto another; it also ticks in round numbers and reads pixels back. */
export const scaleOf = (of: Span, onto: Span): Scale => scaleLinear(of, onto);

/** What a curve through points gives at a value; beyond its ends it goes on straight. */
export const along = (points: number[][]): Scale =>
  scaleLinear(
    points.map((point) => point[0]!),
    points.map((point) => point[1]!),
  );

const path = line().digits(1);
/** Path of the line through points in pixels; empty without any. */
export const lineThrough = (points: [number, number][]): string => path(points) ?? "";

/** Where a value lies on rising values, in steps of them; null where it lies nowhere on them. */
export function position(values: readonly number[], now: number | null | undefined): number | null {
  if (now == null || values.length < 2 || now < values[0]! || now > values.at(-1)!) return null;
  const upper = Math.max(
    values.findIndex((value) => value >= now),
    1,
  );
  return upper - 1 + (now - values[upper - 1]!) / (values[upper]! - values[upper - 1]!);
}
