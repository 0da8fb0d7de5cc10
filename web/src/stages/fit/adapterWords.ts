/** What printing an adapter takes, and whether its plastic stands what is beside it. */
import type { Schemas } from "$lib/api/client";
import { partsOf, valueOf, type BuildDocument } from "$lib/document/build";
import { fixed } from "$lib/units/format";
import type { Tone } from "./words";

export function adapterSays(says: Schemas["AdapterSays"]): string {
  const size = says.size_mm.map((mm) => fixed(mm, 0)).join(" × ");
  const stands =
    says.steepest_deg > 45 ? `, with supports: it leans ${fixed(says.steepest_deg, 0)}°` : ", with supports";
  const pieces = says.pieces > 1 ? `; ${says.pieces} pieces, no higher than 240 mm, glued butt to butt` : "";
  const bed = says.bed_mm === null ? "; no usual bed is as large" : `; it takes a bed of ${fixed(says.bed_mm, 0)} mm`;
  return (
    `${fixed(says.plastic_cm3)} cm³, about ${fixed(says.mass_g, 0)} g of plastic, ${size} mm; ` +
    `print it standing on ${says.stands_on}${says.supports ? stands : ", without supports"}${pieces}${bed}.`
  );
}

/** Against the temperature of what it stands beside, as it is predicted. */
export function softens(
  says: Schemas["AdapterSays"],
  near: { name: string; at: number } | undefined,
): { tone: Tone; text: string } {
  const most = `softens at ${fixed(says.softens_c, 0)} °C, keep it under ${fixed(says.at_most_c, 0)}`;
  if (!near) return { tone: "plain", text: `Its plastic ${most} °C.` };
  const over = near.at > says.at_most_c;
  const what = `${near.name} is ${fixed(near.at, 0)} °C`;
  return over
    ? { tone: "bad", text: `${what}: its plastic ${most}. Take one that stands more.` }
    : { tone: "plain", text: `${what}: its plastic ${most}; ${fixed(says.at_most_c - near.at, 0)} K to spare.` };
}

type Start = Partial<Schemas["AdapterIn"]>;

/** What an adapter begins with: a rectangular duct of the build, else the flange and the opening of its first fan. */
export function startOf(document: BuildDocument | null): Start {
  if (!document) return {};
  for (const duct of partsOf(document, "duct")) {
    const [wide, high] = [valueOf(duct.width_mm), valueOf(duct.height_mm)];
    const length = Math.round(1000 * (valueOf(duct.length_m) ?? 0));
    if (wide && high && length >= 5)
      return { ...rectangle("first", wide, high), ...rectangle("second", wide, high), length_mm: length };
  }
  for (const fan of partsOf(document, "fan")) {
    const size = valueOf(fan.size_mm) ?? Number(/^fan_(\d+)x/.exec(fan.class ?? "")?.[1]);
    const opening = OPENINGS[size];
    if (opening) return { first_mm: opening, first_fan_mm: size };
  }
  return {};
}

const rectangle = (end: "first" | "second", wide: number, high: number): Start => ({
  [end]: "square",
  [`${end}_mm`]: wide,
  [`${end}_high_mm`]: wide === high ? 0 : high,
});

/** Openings before the blades of fans by their size, as they are cut. */
const OPENINGS: Record<number, number> = {
  40: 38,
  50: 48,
  60: 58,
  80: 77,
  92: 89,
  120: 116,
  140: 135,
  180: 174,
  200: 190,
};
