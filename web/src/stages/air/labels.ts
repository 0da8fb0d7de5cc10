/** Where the arrow of a mouth and its figures stand: never over those of the next. */
import { arrowLength, type Rect } from "$lib/drawing/faces";
import type { Mouth } from "./model";

/** what "120 m³/h out" takes, px */
export const LABEL = 88;
const LINE = 14;
const HEAD = 10;
/** from the middle of an arrow to figures beside it */
const BESIDE = 16;
const INSIDE = 26;

/** ``from`` and ``to`` are heights of the arrow's ends; the figures begin at ``y`` and stand at, or around, ``x``. */
export type Placed = { x: number; from: number; to: number; textX: number; y: number; anchor: "start" | "middle" };

/**
 * Above the top, inside the front, below all others; figures beside the arrow where its column has the room, else behind
 * its end.
 */
export function placed(mouth: Pick<Mouth, "face" | "flow" | "into">, rect: Rect, edge: Rect, most: number): Placed {
  const length = arrowLength(mouth.flow, most);
  const x = rect.x + rect.w / 2;
  // right of the left face the bottom one begins, so that its figures stand below
  const beside = rect.w / 2 >= BESIDE + LABEL && mouth.face !== "left";
  const [near, far] = ends(mouth.face, rect, edge, length);
  const [from, to] = mouth.into ? [far, near] : [near, far];
  const isAbove = mouth.face === "top" || mouth.face === "front";
  const behind = isAbove ? Math.min(near, far) - HEAD - LINE - 4 : Math.max(near, far) + HEAD + LINE;
  const first = beside ? (near + far) / 2 - 1 : behind;
  return { x, from, to, textX: beside ? x + BESIDE : x, y: first, anchor: beside ? "start" : "middle" };
}

/** The ends of an arrow, that at the face first. An arrow in the front stands on its foot. */
function ends(face: Mouth["face"], rect: Rect, edge: Rect, length: number): [number, number] {
  if (face === "top") return [-4, -length - 4];
  if (face === "front") return [rect.y + rect.h - 5 - INSIDE, rect.y + rect.h - 5];
  return [edge.y + edge.h + 4, edge.y + edge.h + 4 + length];
}

/** What stands at the foot of a face below its parts: the name, in the front also the arrow and its figures. */
export const footOf = (face: Mouth["face"], rect: Rect): number => {
  if (face !== "front") return 46;
  return rect.w / 2 >= BESIDE + LABEL ? 66 : 66 + 2 * LINE;
};
