/** Marks of dots: a shape for each kind, so that colour is never alone. */
export const SHAPES = 5;

const OUTLINES: ((x: number, y: number, r: number) => string)[] = [
  (x, y, r) => `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`,
  (x, y, r) => `M${x - r} ${y - r}h${2 * r}v${2 * r}h${-2 * r}Z`,
  (x, y, r) => `M${x} ${y - 1.25 * r}L${x + 1.15 * r} ${y + r}H${x - 1.15 * r}Z`,
  (x, y, r) => `M${x} ${y - 1.4 * r}L${x + 1.4 * r} ${y}L${x} ${y + 1.4 * r}L${x - 1.4 * r} ${y}Z`,
  (x, y, r) => `M${x} ${y + 1.25 * r}L${x + 1.15 * r} ${y - r}H${x - 1.15 * r}Z`,
];

/** The outline of a kind's mark around a point. */
export const outline = (shape: number, x: number, y: number, r: number): string => OUTLINES[shape % SHAPES]!(x, y, r);

export type Dot = { number: number; x: number; y: number; radius: number; shape: number; meets: boolean };

/** All dots on a canvas: those that meet every demand filled and last. */
export function paintDots(canvas: HTMLCanvasElement, dots: Dot[], width: number, height: number): void {
  const scale = window.devicePixelRatio || 1;
  canvas.width = width * scale;
  canvas.height = height * scale;
  const pen = canvas.getContext("2d");
  if (!pen) return;
  const css = getComputedStyle(canvas);
  pen.scale(scale, scale);
  pen.fillStyle = css.getPropertyValue("--holds");
  pen.strokeStyle = css.getPropertyValue("--soft");
  for (const dot of [...dots].sort((a, b) => Number(a.meets) - Number(b.meets))) {
    const mark = new Path2D(outline(dot.shape, dot.x, dot.y, dot.radius));
    pen.globalAlpha = dot.meets ? 0.75 : 0.22;
    if (dot.meets) pen.fill(mark);
    else pen.stroke(mark);
  }
}

/** The dot under a pointer, those that meet every demand a little sooner. */
export function nearestDot(dots: Dot[], x: number, y: number, reach = 14): number | null {
  let best: number | null = null;
  let least = reach ** 2;
  for (const dot of dots) {
    const distance = (dot.x - x) ** 2 + (dot.y - y) ** 2 - (dot.meets ? 9 : 0);
    if (distance < least) [best, least] = [dot.number, distance];
  }
  return best;
}
