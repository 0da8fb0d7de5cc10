/** A figure of one's own made a measured one, and back: with the tolerance of what it was measured with. */
import { originOf, valueOf, type Figure } from "./build";

/** half widths of 90 % by unit: a ruler, a hand meter, a wattmeter (common practice); a share of the figure of all others */
const BY_UNIT: Record<string, number | string> = {
  mm: 0.5,
  "°C": 0.5,
  W: "3%",
  dBA: 2,
  g: "1%",
  rpm: "2%",
  "l/min": "5%",
};
const OTHERS = "5%";

/** Whether one touch makes it a measured one, or takes that back. */
export const mayBeMeasured = (figure: Figure | null | undefined): boolean =>
  figure !== null && figure !== undefined && ["stated", "measured", undefined].includes(originOf(figure));

export function measured(figure: Figure, unit: string): Figure {
  const value = valueOf(figure)!;
  if (originOf(figure) === "measured") return value;
  return { value, plus_minus: BY_UNIT[unit] ?? OTHERS, from: "measured" };
}
