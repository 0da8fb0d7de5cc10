/** Scales and ticks of charts: plain numbers in, plain numbers out. */
export type Span = readonly [number, number];

/** Lowest and highest of the known values with a little room around them. */
export function spanOf(values: readonly (number | null)[], least = 0.5): Span {
  const known = values.filter((value): value is number => value !== null);
  if (!known.length) return [0, 1];
  const low = known.reduce((a, b) => Math.min(a, b), Infinity);
  const high = known.reduce((a, b) => Math.max(a, b), -Infinity);
  const pad = Math.max((high - low) * 0.04, least);
  return [low - pad, high + pad];
}

/** Round numbers between two ends, about so many. */
export function ticks([low, high]: Span, count: number): number[] {
  const rough = (high - low) / count;
  const size = 10 ** Math.floor(Math.log10(rough));
  const step = [1, 2, 5, 10].map((m) => m * size).find((s) => s >= rough) ?? rough;
  const first = Math.ceil(low / step);
  return Array.from({ length: Math.floor(high / step) - first + 1 }, (_, i) =>
    Number(((first + i) * step).toPrecision(6)),
  );
}

/** A value of one span laid onto another. */
export const between = (value: number, from: Span, onto: Span): number =>
  onto[0] + ((value - from[0]) / (from[1] - from[0] || 1)) * (onto[1] - onto[0]);

/** Where a value lies on rising values, in steps of them; null where it lies nowhere on them. */
export function position(values: readonly number[], now: number | null | undefined): number | null {
  if (now == null || values.length < 2 || now < values[0]! || now > values.at(-1)!) return null;
  const upper = Math.max(
    values.findIndex((value) => value >= now),
    1,
  );
  return upper - 1 + (now - values[upper - 1]!) / (values[upper]! - values[upper - 1]!);
}
