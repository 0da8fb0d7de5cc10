/** The build document as the browser edits it: plain objects, addressed by id, never by position. */
export type Origin = "measured" | "datasheet" | "class" | "estimate" | "rule_of_thumb" | "calibrated";
export type FigureDetail = {
  value: number;
  plus_minus?: number | string | { minus: number; plus: number };
  from?: Origin;
  ref?: string;
};
export type Figure = number | FigureDetail;
export type Place = {
  id: string;
  name?: string;
  class?: string;
  limits?: { kind: string; at_c: Figure }[];
  [key: string]: unknown;
};
export type Part = {
  id: string;
  kind: string;
  name?: string;
  class?: string;
  places?: Place[];
  [key: string]: unknown;
};
export type Element = string | { parallel: Element[][] };
export type Loop = {
  id: string;
  name?: string;
  elements: Element[];
  coolant?: { fluid?: string; mass_share?: number };
  volume_l?: Figure;
};
export type Hop = {
  id: string;
  kind: string;
  name?: string;
  part?: string;
  parts?: string[];
  zone?: string;
  at_mm?: number[];
  resistance_k_w?: Figure;
};
export type Command = { duty?: number; speed_rpm?: number; off?: true; curve?: unknown };
export type Workload = {
  id: string;
  name?: string;
  watts: Record<string, Figure>;
  burst?: Record<string, { power_w: number; hold_s: number }>;
  movers?: Record<string, Command>;
  cores?: "all" | "few";
  duration_min?: number;
  sound_ceiling_dba?: number;
};
export type Room = { id: string; name?: string; air_c: Figure; altitude_m?: number };
export type BuildDocument = {
  name: string;
  notes?: string;
  brief?: {
    purpose?: string;
    margin_wanted_k?: number;
    listener_m?: number;
    coolest_room?: string;
    hottest_room?: string;
    worst_workloads?: string[];
    [key: string]: unknown;
  };
  rooms: Room[];
  parts: Part[];
  loops: Loop[];
  air_paths: { id: string; name?: string; from_zone: string; to_zone: string; elements: Element[] }[];
  routes: { id: string; place: string; hops: Hop[] }[];
  workloads: Workload[];
  [key: string]: unknown;
};

export const valueOf = (figure: Figure | undefined): number | undefined =>
  typeof figure === "object" ? figure.value : figure;

export const originOf = (figure: Figure | undefined): Origin | undefined =>
  typeof figure === "object" ? figure.from : figure === undefined ? "class" : undefined;

/** A figure with another value: what a person types is their own statement, so an old guess mark goes. */
export function withValue(figure: Figure | undefined, value: number): Figure {
  if (typeof figure !== "object") return value;
  const guess = figure.from !== undefined && ["class", "estimate", "rule_of_thumb"].includes(figure.from);
  if (guess) return value;
  return { ...figure, value };
}

export function placeOf(document: BuildDocument, id: string): Place | undefined {
  return document.parts.flatMap((part) => part.places ?? []).find((place) => place.id === id);
}

/** The object that an id belongs to. */
export function ownerOf(document: BuildDocument, id: string): Record<string, unknown> | undefined {
  const lists = ["rooms", "zones", "loops", "workloads", "parts", "air_paths", "recirculations", "feeds"] as const;
  for (const list of lists) {
    const found = (document[list] as { id: string }[] | undefined)?.find((item) => item.id === id);
    if (found) return found as Record<string, unknown>;
  }
  return placeOf(document, id);
}

/** Move an element of a series by one; the ends do not wrap. */
export function moved(elements: Element[], index: number, by: -1 | 1): Element[] {
  const target = index + by;
  if (target < 0 || target >= elements.length) return elements;
  const next = [...elements];
  [next[index], next[target]] = [next[target]!, next[index]!];
  return next;
}

/** Cells of a pasted column or block, numbers with comma or point. */
export function pastedNumbers(text: string): number[] {
  return text
    .split(/[\r\n\t;]+/)
    .map((cell) => cell.trim().replace(/\s*W$/i, "").replace(",", "."))
    .filter((cell) => /^-?\d+(\.\d+)?$/.test(cell))
    .map(Number);
}
