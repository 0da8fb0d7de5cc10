/** Marks of dots: a shape for each kind, so that colour is never alone. */
export const SHAPES = 5;

type Pen = CanvasRenderingContext2D;
const polygon = (pen: Pen, points: readonly (readonly [number, number])[]) => {
  points.forEach(([x, y], i) => (i ? pen.lineTo(x, y) : pen.moveTo(x, y)));
};

const DRAWN: ((pen: Pen, x: number, y: number, r: number) => void)[] = [
  (pen, x, y, r) => pen.arc(x, y, r, 0, 2 * Math.PI),
  (pen, x, y, r) => pen.rect(x - r, y - r, 2 * r, 2 * r),
  (pen, x, y, r) =>
    polygon(pen, [
      [x, y - 1.25 * r],
      [x + 1.15 * r, y + r],
      [x - 1.15 * r, y + r],
    ]),
  (pen, x, y, r) =>
    polygon(pen, [
      [x, y - 1.4 * r],
      [x + 1.4 * r, y],
      [x, y + 1.4 * r],
      [x - 1.4 * r, y],
    ]),
  (pen, x, y, r) =>
    polygon(pen, [
      [x, y + 1.25 * r],
      [x + 1.15 * r, y - r],
      [x - 1.15 * r, y - r],
    ]),
];

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
    pen.beginPath();
    DRAWN[dot.shape % SHAPES]!(pen, dot.x, dot.y, dot.radius);
    pen.closePath();
    pen.globalAlpha = dot.meets ? 0.75 : 0.22;
    if (dot.meets) pen.fill();
    else pen.stroke();
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
