/** An opening by how it is cut: what of it is free, and which law stands for its loss. */
import { withValue, type BuildDocument, type Part } from "./build";

export type How = "circle" | "slots" | "holes" | "sides";
/** lengths in mm */
export type Cut = Record<"count" | "diameter" | "length" | "width" | "height", number>;
export type Measure = { key: keyof Cut; label: string; unit: string; low: number; high: number };

const COUNT: Measure = { key: "count", label: "Number", unit: "", low: 1, high: 20000 };
const mm = (key: keyof Cut, label: string): Measure => ({ key, label, unit: "mm", low: 0.5, high: 5000 });

/** Ways to cut an opening: what it is called, what is measured of it. */
export const WAYS_TO_CUT: Record<How, { name: string; measures: Measure[] }> = {
  circle: { name: "a circle", measures: [{ ...COUNT, label: "Circles" }, mm("diameter", "Diameter")] },
  slots: { name: "slots", measures: [{ ...COUNT, label: "Slots" }, mm("length", "Length"), mm("width", "Width")] },
  holes: {
    name: "a field of holes",
    measures: [
      { ...COUNT, label: "Holes" },
      mm("diameter", "Diameter"),
      mm("length", "Field, length"),
      mm("width", "Field, width"),
    ],
  },
  sides: { name: "open sides", measures: [mm("length", "Edges open, together"), mm("height", "Height of the gap")] },
};

export const FIRST_CUT: Cut = { count: 1, diameter: 100, length: 100, width: 10, height: 10 };

/** holes in a staggered field touch at this share */
const MOST_SHARE = Math.PI / Math.sqrt(12);

const circle = (diameter: number) => (Math.PI / 4) * diameter ** 2;
const cm2 = (mm2: number) => Number((mm2 / 100).toPrecision(4));

/** Area that the loss stands on, cm², and what of it is free; ``fault`` where nobody can cut that. */
export function openingOf(how: How, cut: Cut): { area_cm2: number; share: number; fault: string } {
  const { count, diameter, length, width, height } = cut;
  if (how === "circle") return { area_cm2: cm2(count * circle(diameter)), share: 1, fault: "" };
  if (how === "slots") return { area_cm2: cm2(count * length * width), share: 1, fault: "" };
  if (how === "sides") return { area_cm2: cm2(length * height), share: 1, fault: "" };
  const share = (count * circle(diameter)) / (length * width);
  const fault = share > MOST_SHARE ? "more holes than the field has room for" : "";
  return { area_cm2: cm2(length * width), share: Number(share.toPrecision(3)), fault };
}

/** State an opening by how it is cut: a free one by its area, a field of holes by its outline and its free share. */
export function cutOpening(draft: BuildDocument, id: string, how: How, cut: Cut): void {
  const part = draft.parts.find(
    (own): own is Extract<Part, { kind: "opening" }> => own.id === id && own.kind === "opening",
  );
  const { area_cm2, share, fault } = openingOf(how, cut);
  if (!part || fault) return;
  part.area_cm2 = withValue(part.area_cm2, area_cm2);
  delete part.loss;
  delete part.free_area_share;
  if (how === "holes") part.free_area_share = withValue(undefined, share);
  part.class = how === "holes" ? "opening_holes" : "opening_free";
  part.made_of = "plate";
}
