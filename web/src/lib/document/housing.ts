/** The housing: its faces, and which of them lies below. */
import type { BuildDocument, Face } from "./build";

export const FACES: Face[] = ["top", "bottom", "left", "right", "front", "back"];

const POSITIONS: [number, number, number][] = [
  [0, 0, -1],
  [0, -1, 0],
  [0, 0, 1],
  [0, 1, 0],
  [-1, 0, 0],
  [1, 0, 0],
];

/** The face that lies below. */
export function lowerFace(document: BuildDocument): Face {
  const g = document.housing?.gravity ?? [0, 0, -1];
  const axis = [0, 1, 2].reduce((best, i) => (Math.abs(g[i]!) > Math.abs(g[best]!) ? i : best), 0);
  return (
    [
      ["left", "right"],
      ["front", "back"],
      ["bottom", "top"],
    ] as Face[][]
  )[axis]![g[axis]! < 0 ? 0 : 1]!;
}

/** Turn the whole housing to the next of its six positions. */
export function turnHousing(draft: BuildDocument): void {
  const now = draft.housing?.gravity ?? [0, 0, -1];
  const at = POSITIONS.findIndex((p) => p.every((v, i) => v === now[i]));
  draft.housing = { ...draft.housing, gravity: POSITIONS[(at + 1) % POSITIONS.length]! };
}

type Vector = readonly [number, number, number];
/** Which way right and down point on each face of the unfolded housing: x wide, y deep from front to back, z high. */
const DRAWN: Record<Face, { right: Vector; down: Vector }> = {
  front: { right: [1, 0, 0], down: [0, 0, -1] },
  right: { right: [0, 1, 0], down: [0, 0, -1] },
  back: { right: [-1, 0, 0], down: [0, 0, -1] },
  left: { right: [0, -1, 0], down: [0, 0, -1] },
  top: { right: [1, 0, 0], down: [0, -1, 0] },
  bottom: { right: [1, 0, 0], down: [0, 1, 0] },
};
/** below this a face lies level: nothing runs down on it */
const LEVEL = 0.1;

/** Which way things fall on a face as it is drawn, of length one; null where it lies level. */
export function fallOn(document: BuildDocument, face: Face): { x: number; y: number } | null {
  const g = document.housing?.gravity ?? [0, 0, -1];
  const dot = (v: Vector) => v.reduce((sum, value, i) => sum + value * g[i]!, 0);
  const [x, y] = [dot(DRAWN[face].right), dot(DRAWN[face].down)];
  const length = Math.hypot(x, y);
  return length > LEVEL * Math.hypot(...g) ? { x: x / length, y: y / length } : null;
}
