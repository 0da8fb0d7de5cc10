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
