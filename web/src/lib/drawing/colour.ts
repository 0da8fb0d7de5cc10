/** The one ramp reserved for temperature: slate at the room, sand, ember at the limit. Readable without colour too. */
const RAMP: [number, [number, number, number]][] = [
  [0, [84, 112, 138]],
  [0.28, [142, 153, 149]],
  [0.55, [214, 184, 120]],
  [0.78, [205, 126, 72]],
  [1, [168, 58, 42]],
];

/** Colour of a temperature between room (0) and limit (1), as [r, g, b]. */
export function heat(share: number): [number, number, number] {
  const x = Math.min(Math.max(share, 0), 1);
  const upper = RAMP.findIndex(([at]) => at >= x);
  const [hiAt, hi] = RAMP[Math.max(upper, 1)]!;
  const [loAt, lo] = RAMP[Math.max(upper, 1) - 1]!;
  const part = (x - loAt) / (hiAt - loAt);
  return [0, 1, 2].map((i) => Math.round(lo[i]! + part * (hi[i]! - lo[i]!))) as [number, number, number];
}

export const css = ([r, g, b]: [number, number, number]) => `rgb(${r} ${g} ${b})`;

/** The ramp as stops of a gradient: share of the way from room to limit, colour. */
export const STOPS = RAMP.map(([at, colour]) => [at, css(colour)] as const);

/** Relative luminance of the WCAG. */
export function luminance([r, g, b]: [number, number, number]): number {
  const [x, y, z] = [r, g, b].map((c) => {
    const s = c / 255;
    return s <= 0.04045 ? s / 12.92 : ((s + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * x! + 0.7152 * y! + 0.0722 * z!;
}

export function contrast(a: [number, number, number], b: [number, number, number]): number {
  const [hi, lo] = [luminance(a), luminance(b)].sort((x, y) => y - x);
  return (hi! + 0.05) / (lo! + 0.05);
}

const INK: [number, number, number] = [5, 7, 8];
const WHITE: [number, number, number] = [255, 255, 255];

/** Ink or white, whichever reads better on a block. */
export function textOn(colour: [number, number, number]): string {
  return css(contrast(colour, INK) >= contrast(colour, WHITE) ? INK : WHITE);
}
