/** The housing unfolded: top above front, bottom below it, left and right beside it, back behind the right. */
import type { Face } from "../document/build";

export type Rect = { x: number; y: number; w: number; h: number };
export const GAP = 8;
const LEAST = 76;

/** Rectangles of the six faces in an area, to scale of the inner size where it is known; no face below a readable size. */
export function unfolded(size: number[] | undefined, width: number, height: number): Record<Face, Rect> {
  const [W, D, H] = (size ?? [320, 220, 200]) as [number, number, number];
  const scale = Math.min((width - 3 * GAP) / (2 * W + 2 * D), (height - 2 * GAP) / (H + 2 * D));
  const least = Math.min(LEAST, (width - 3 * GAP) / 4, (height - 2 * GAP) / 3);
  let [w, d, h] = [W, D, H].map((mm) => Math.max(mm * scale, least)) as [number, number, number];
  const shrink = Math.min(1, (width - 3 * GAP) / (2 * w + 2 * d));
  [w, d] = [w * shrink, d * shrink];
  const tall = Math.min(1, (height - 2 * GAP) / (h + 2 * d));
  const deep = d * tall;
  h *= tall;
  const x1 = d + GAP;
  const y1 = deep + GAP;
  return {
    top: { x: x1, y: 0, w, h: deep },
    left: { x: 0, y: y1, w: d, h },
    front: { x: x1, y: y1, w, h },
    right: { x: x1 + w + GAP, y: y1, w: d, h },
    back: { x: x1 + w + d + 2 * GAP, y: y1, w, h },
    bottom: { x: x1, y: y1 + h + GAP, w, h: deep },
  };
}

/** Split a rectangle into columns beside each other, wider ones for more parts. */
export function columns(rect: Rect, weights: number[]): Rect[] {
  const total = weights.reduce((sum, weight) => sum + weight, 0) || 1;
  const pad = 6;
  let x = rect.x + pad;
  const room = rect.w - 2 * pad;
  return weights.map((weight) => {
    const w = (room * weight) / total;
    const column = { x: x + 2, y: rect.y, w: w - 4, h: rect.h };
    x += w;
    return column;
  });
}

/** Length of an arrow for a flow, against the largest flow drawn. */
export const arrowLength = (flow: number, most: number) => 10 + 26 * Math.min(Math.abs(flow) / Math.max(most, 1e-6), 1);
