/** Places of beads on a stadium-shaped ring, in flow order: along the top to the right, back along the bottom. */
export type Bead = { x: number; y: number; top: boolean };

export function beads(count: number, width: number, top: number, bottom: number): Bead[] {
  const above = Math.ceil(count / 2);
  const below = count - above;
  const inner = 30;
  const at = (index: number, of: number) => inner + ((width - 2 * inner) * (index + 0.5)) / Math.max(of, 1);
  return Array.from({ length: count }, (_, i) =>
    i < above
      ? { x: at(i, above), y: top, top: true }
      : { x: at(below - 1 - (i - above), below), y: bottom, top: false },
  );
}

/** The bead that is nearest to a point: where a dragged one is dropped. */
export function nearest(list: Bead[], x: number, y: number): number {
  let best = 0;
  list.forEach((bead, i) => {
    const first = list[best]!;
    if ((bead.x - x) ** 2 + (bead.y - y) ** 2 < (first.x - x) ** 2 + (first.y - y) ** 2) best = i;
  });
  return best;
}
