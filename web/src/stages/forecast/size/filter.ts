import type { Result, Studies } from "$lib/state/study.svelte";

export type Figure = "level_dba" | "height_mm" | "price" | "mass_g" | "margin_k";
/** Figures that dots may lie on: key, name, unit. */
export const FIGURES: [Figure, string, string][] = [
  ["level_dba", "sound", "dBA"],
  ["margin_k", "margin", "K"],
  ["height_mm", "stack", "mm"],
  ["mass_g", "mass", "g"],
  ["price", "price", ""],
];
export const unitOf = (figure: Figure): string => FIGURES.find(([key]) => key === figure)?.[2] ?? "";

/** What is left in view: a rectangle on the dots, and options that are switched off by axis. */
export type Brush = {
  rectangle: { x: Figure; y: Figure; x0: number; x1: number; y0: number; y1: number } | null;
  options: Record<string, number[]>;
};

/** Numbers of the candidates in view, solved ones alone. */
export function filtered(studies: Studies, result: Result, brush: Brush): number[] {
  const { rectangle } = brush;
  const off = studies.axes.map((axis) => new Set(brush.options[axis.address] ?? []));
  const none = off.every((set) => !set.size);
  const [xs, ys] = rectangle ? [result.columns[rectangle.x], result.columns[rectangle.y]] : [undefined, undefined];
  const found: number[] = [];
  for (let number = 0; number < result.size; number += 1) {
    if (result.columns["margin_k"]?.[number] == null) continue;
    if (rectangle) {
      const x = xs?.[number];
      const y = ys?.[number];
      if (x == null || y == null) continue;
      if (x < rectangle.x0 || x > rectangle.x1 || y < rectangle.y0 || y > rectangle.y1) continue;
    }
    if (!none && studies.optionsOf(number).some((option, axis) => off[axis]!.has(option))) continue;
    found.push(number);
  }
  return found;
}

export const labelOf = (studies: Studies, axis: number, option: number): string => {
  const found = studies.axes[axis]?.options[option];
  return found?.label || String(found?.value ?? "");
};

/** What an option's label is of, where the label alone does not say it. */
const OF: [RegExp, (label: string) => string][] = [
  [/^movers\/pumps?$/, (label) => `pump ${label}`],
  [/^movers\//, (label) => `fans ${label}`],
  [/\/thickness_mm$/, (label) => `${label} thick`],
  [/\/fin_height_mm$/, (label) => `fins ${label}`],
  [/\/fin_pitch_mm$/, (label) => `pitch ${label}`],
  [/\/count$/, (label) => `${label} × pipe`],
];

/** An option with what it is of. */
export function optionWords(studies: Studies, axis: number, option: number): string {
  const label = labelOf(studies, axis, option);
  const address = studies.axes[axis]?.address ?? "";
  return OF.find(([pattern]) => pattern.test(address))?.[1](label) ?? label;
}

/** A candidate in a few words: its options, each with what it is of. */
export const wordsOf = (studies: Studies, number: number): string =>
  studies
    .optionsOf(number)
    .map((option, axis) => optionWords(studies, axis, option))
    .join(", ");
