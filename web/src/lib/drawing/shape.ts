import type { Schemas } from "$lib/api/client";

type Picture = Schemas["Picture"];
type Mouth = Schemas["Mouth"];

/** Where a mouth stands in the side view: the middle of it, and which way out of the housing points. */
export type Stand = { x: number; y: number; out: [number, number]; mouth: Mouth };
export type Box = { x: number; y: number; width: number; height: number };

/** Front to the left, back to the right; what stands on a side that the view looks at is drawn on the nearer end. */
const EDGE: Record<string, "left" | "right" | "top" | "bottom"> = {
  front: "left",
  left: "left",
  back: "right",
  right: "right",
  top: "top",
  bottom: "bottom",
};
const OUT = { left: [-1, 0], right: [1, 0], top: [0, -1], bottom: [0, 1] } as const;

/** The housing in a frame, its proportions kept within what can be told apart. */
export function housingBox(picture: Picture, width: number, height: number, pad: number): Box {
  const ratio = Math.min(Math.max(picture.depth_mm / picture.height_mm, 0.8), 2.4);
  const room = { width: width - 2 * pad, height: height - 2 * pad };
  const high = Math.min(room.height, room.width / ratio);
  const wide = high * ratio;
  return { x: (width - wide) / 2, y: (height - high) / 2, width: wide, height: high };
}

/** Mouths along their edges: fans high, openings low; alike ones on one face are drawn once. */
export function stands(picture: Picture, box: Box): Stand[] {
  const kinds = new Map(picture.mouths.map((m) => [`${EDGE[m.face]} ${m.way} ${m.fan} ${m.sections > 0}`, m]));
  const mouths = [...kinds.values()].sort((a, b) => Number(b.fan) - Number(a.fan));
  return mouths.map((mouth) => {
    const edge = EDGE[mouth.face]!;
    const beside = mouths.filter((other) => EDGE[other.face] === edge);
    const share = (beside.indexOf(mouth) + 1) / (beside.length + 1);
    const out = [...OUT[edge]] as [number, number];
    const along = { x: box.x + share * box.width, y: box.y + share * box.height };
    const at = {
      left: { x: box.x, y: along.y },
      right: { x: box.x + box.width, y: along.y },
      top: { x: along.x, y: box.y },
      bottom: { x: along.x, y: box.y + box.height },
    }[edge];
    return { ...at, out, mouth };
  });
}

/** The middles of what stands on the board, spread over the housing's inside. */
export function spread(count: number, box: Box): number[] {
  const inner = box.width * 0.78;
  return Array.from({ length: count }, (_, i) => box.x + (box.width - inner) / 2 + (inner * (i + 0.5)) / count);
}
