/** The housing unfolded: top above front, bottom below it, left and right beside it, back behind the right. */
import type { Face } from "../document/build";

export type Rect = { x: number; y: number; w: number; h: number };
export const GAP = 8;
const LEAST = 76;

/** A span drawn to scale, and the least that it may be drawn. */
type Span = { to: number; least: number };

/**
 * Rectangles of the six faces in an area, to scale of the inner size where it is known; no face below a readable size,
 * nor narrower than what is drawn on it needs, as far as the area goes.
 */
export function unfolded(
  size: number[] | undefined,
  width: number,
  height: number,
  needs: Partial<Record<Face, number>> = {},
): Record<Face, Rect> {
  const [W, D, H] = (size ?? [320, 220, 200]) as [number, number, number];
  const across = width - 3 * GAP;
  const up = height - 2 * GAP;
  const scale = Math.min(across / (2 * W + 2 * D), up / (H + 2 * D));
  const span = (mm: number, least: number, ...faces: Face[]): Span => ({
    to: mm * scale,
    least: Math.max(least, ...faces.map((face) => needs[face] ?? 0)),
  });
  const least = Math.min(LEAST, across / 4);
  const deep = span(D, least, "left", "right");
  const [w, d, , b] = fitted(
    [span(W, least, "front", "top", "bottom"), deep, deep, span(W, least, "back")],
    across,
  ) as [number, number, number, number];
  const tall = Math.min(LEAST, up / 3);
  const [t, h] = fitted([span(D, tall), span(H, tall), span(D, tall)], up) as [number, number, number];
  const x1 = d + GAP;
  const y1 = t + GAP;
  return {
    top: { x: x1, y: 0, w, h: t },
    left: { x: 0, y: y1, w: d, h },
    front: { x: x1, y: y1, w, h },
    right: { x: x1 + w + GAP, y: y1, w: d, h },
    back: { x: x1 + w + d + 2 * GAP, y: y1, w: b, h },
    bottom: { x: x1, y: y1 + h + GAP, w, h: t },
  };
}

/** Lengths of spans that lie in a row: each at least what it needs; what is too much is taken from those that have more. */
function fitted(spans: Span[], room: number): number[] {
  const wanted = spans.map(({ to, least }) => Math.max(to, least));
  const over = wanted.reduce((sum, length) => sum + length, 0) - room;
  if (over <= 0) return wanted;
  const spare = wanted.map((length, i) => length - spans[i]!.least);
  const all = spare.reduce((sum, length) => sum + length, 0);
  const cut = wanted.map((length, i) => length - (all > 0 ? spare[i]! * Math.min(over / all, 1) : 0));
  const shrink = Math.min(1, room / cut.reduce((sum, length) => sum + length, 0));
  return cut.map((length) => length * shrink);
}

const PAD = 6;
const BETWEEN = 4;

/** How wide a face has to be so that its narrowest column, by weight, is so wide; 0 without columns. */
export const widthFor = (weights: number[], column: number): number =>
  weights.length
    ? ((column + BETWEEN) * weights.reduce((sum, weight) => sum + weight, 0)) / Math.min(...weights) + 2 * PAD
    : 0;

/** Split a rectangle into columns beside each other, wider ones for more parts. */
export function columns(rect: Rect, weights: number[]): Rect[] {
  const total = weights.reduce((sum, weight) => sum + weight, 0) || 1;
  let x = rect.x + PAD;
  const room = rect.w - 2 * PAD;
  return weights.map((weight) => {
    const w = (room * weight) / total;
    const column = { x: x + BETWEEN / 2, y: rect.y, w: w - BETWEEN, h: rect.h };
    x += w;
    return column;
  });
}

/** Length of an arrow for a flow, against the largest flow drawn. */
export const arrowLength = (flow: number, most: number) => 10 + 26 * Math.min(Math.abs(flow) / Math.max(most, 1e-6), 1);
