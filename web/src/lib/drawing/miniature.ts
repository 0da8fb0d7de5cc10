import type { Schemas } from "$lib/api/client";

/** A build's terraces the size of a thumb: towers as wide as their watts, limits as lines above them. */
export type Miniature = {
  blocks: { x: number; y: number; width: number; height: number; share: number }[];
  limits: { x: number; y: number; width: number }[];
};

const GAP = 1;
const NARROWEST = 7;
const TOP = 2;

export function miniature(towers: Schemas["CardTower"][], width: number, height: number): Miniature {
  const tops = towers.map((tower) => top(tower));
  const highest = Math.max(...tops, ...towers.map((tower) => tower.limit_k ?? 0), 1);
  const scale = (height - TOP) / highest;
  const y = (kelvins: number) => height - Math.max(kelvins, 0) * scale;
  const room = width - GAP * Math.max(towers.length - 1, 0);
  const total = towers.reduce((sum, tower) => sum + tower.watts, 0) || 1;
  const wide = towers.map((tower) => Math.max((tower.watts / total) * room, NARROWEST));
  const shrink = room / wide.reduce((sum, w) => sum + w, 0);

  const drawn: Miniature = { blocks: [], limits: [] };
  let x = 0;
  towers.forEach((tower, i) => {
    const own = wide[i]! * shrink;
    let over = 0;
    for (const drop of [tower.floor_k, ...tower.drops_k]) {
      const bottom = over;
      over += drop;
      const share = (bottom + over) / 2 / (tower.limit_k ?? highest);
      const upper = y(Math.max(over, bottom));
      drawn.blocks.push({ x, y: upper, width: own, height: y(Math.min(over, bottom)) - upper, share });
    }
    if (tower.limit_k !== null) drawn.limits.push({ x, y: y(tower.limit_k), width: own });
    x += own + GAP;
  });
  return drawn;
}

const top = (tower: Schemas["CardTower"]) => tower.drops_k.reduce((sum, drop) => sum + drop, tower.floor_k);
