/** What leads, reach, heights, shorts and joints say of themselves, in words. */
import type { Schemas } from "$lib/api/client";
import { fixed } from "$lib/units/format";
import type { Tone } from "./words";

export type LeadFit = Schemas["LeadFit"];
type Said = { tone: Tone; text: string };

/** The gravest thing first; nothing where all is well. */
export function leadSays(fit: LeadFit): Said[] {
  const found: Said[] = [];
  for (const bend of fit.bends)
    if (bend.says !== "lies")
      found.push({
        tone: bend.says === "kinks" ? "bad" : "warn",
        text: `${bend.says === "kinks" ? "kinks" : "may kink"}: room for a bend of ${fixed(bend.radius_mm, 0)} mm, it takes ${fixed(bend.least_mm, 0)} ± ${fixed(bend.half_mm, 0)}`,
      });
  for (const near of fit.near)
    found.push({ tone: "bad", text: `${fixed(near.mm, 0)} mm from the blades of ${near.name}: 10 wanted, or tied` });
  if (fit.through.length) found.push({ tone: "bad", text: `runs through ${fit.through.join(", ")}` });
  if (fit.says === "does not reach")
    found.push({
      tone: "bad",
      text: `does not reach: ${fixed(fit.stated_mm, 0)} mm for a way of ${fixed(fit.longest_mm, 0)}`,
    });
  if (fit.says === "taut")
    found.push({
      tone: "warn",
      text: `taut: ${fixed(fit.stated_mm, 0)} mm where ${fixed(fit.order_mm, 0)} lie with slack`,
    });
  for (const end of fit.ends)
    if (end.says !== "free")
      found.push({
        tone: "warn",
        text:
          end.says === "tight"
            ? `${end.what}: ${fixed(end.has_mm, 0)} of ${fixed(end.wants_mm, 0)} mm`
            : `${fixed(end.has_mm)} mm of ${end.what}: an extension from ${fixed(end.wants_mm, 0)} mm on`,
      });
  return found.sort((a, b) => Number(b.tone === "bad") - Number(a.tone === "bad"));
}

export const leadTone = (fit: LeadFit): Tone => (fit.says === "unknown" ? "plain" : (leadSays(fit)[0]?.tone ?? "good"));

/** How long, in a few words. */
export function leadLength(fit: LeadFit): string {
  if (fit.path_mm === null) return fit.stated_mm === null ? "no points yet" : `${fixed(fit.stated_mm, 0)} mm`;
  const way = `way ${fixed(fit.longest_mm, 0)} mm`;
  return fit.stated_mm === null
    ? `${way}, ${fit.is_tube ? "cut" : "order"} ${fixed(fit.order_mm, 0)}`
    : `${way}, has ${fixed(fit.stated_mm, 0)}`;
}

export const TOOLS: Record<Schemas["Reached"]["by"], string> = {
  finger: "a finger",
  fingers: "finger and thumb",
  hand: "a hand",
  screwdriver: "a screwdriver",
};

export function reachedSays(one: Schemas["Reached"]): Said {
  if (one.says === "reached") return { tone: "good", text: `${one.name}: ${TOOLS[one.by]} gets there` };
  if (one.says === "closed") return { tone: "warn", text: `${one.name}: closed; it wants a door or a hole` };
  return { tone: "bad", text: `${one.name}: ${one.in_the_way.join(", ")} in the way` };
}

export function shortSays(one: Schemas["Short"]): Said {
  const where = `${one.live_name}, ${fixed(one.apart_mm)} mm from ${one.metal_name}`;
  if (one.says === "insulated") return { tone: "good", text: `${where}: sheet between, before first power` };
  if (one.says === "too near") return { tone: "bad", text: `${where}: even with a sheet 1 mm is wanted` };
  return { tone: "bad", text: `${where}: ${fixed(one.wants_mm, 0)} mm of air, or a sheet` };
}

const HEIGHT_OF: Record<Schemas["HeightCheck"]["of"], (check: Schemas["HeightCheck"]) => string> = {
  "reservoir over pump": (c) => `${c.name} stands ${fixed(Math.abs(c.mm), 0)} mm ${over(c.mm)} ${c.against}`,
  "fill on top": (c) =>
    c.well
      ? `${c.name}, filled there, is on top`
      : `${c.name}, filled there, lies ${fixed(-c.mm, 0)} mm below ${c.against}`,
  "drain below": (c) =>
    c.well
      ? `${c.name}, emptied there, is lowest`
      : `${c.name}, emptied there, lies ${fixed(-c.mm, 0)} mm above ${c.against}`,
  "air gathers": (c) => `${c.name} stands ${fixed(c.mm, 0)} mm over ${c.against}: air gathers there`,
  "room over the fill": (c) => `${c.name} has ${fixed(c.mm, 0)} mm above it to fill: 120, or a funnel with a hose`,
  feet: (c) =>
    c.known
      ? `${c.name} breathes beneath: feet of ${fixed(c.mm, 0)} mm, ${c.against} wanted`
      : `${c.name} breathes beneath: nobody told how high the feet are, ${c.against} wanted`,
};
const over = (mm: number) => (mm >= 0 ? "over" : "below");

export function heightSays(check: Schemas["HeightCheck"]): Said {
  const tone = check.well ? "good" : !check.known ? "plain" : check.of === "reservoir over pump" ? "bad" : "warn";
  return { tone, text: HEIGHT_OF[check.of](check) };
}

const HOLDS: Record<Schemas["JointHolds"]["says"], Tone> = {
  holds: "good",
  "in doubt": "warn",
  "lets go": "bad",
  unknown: "plain",
};

export function jointSays(joint: Schemas["JointHolds"]): Said {
  if (joint.weight_n === null || joint.carries_n === null)
    return { tone: "plain", text: "nobody knows what it weighs: state its mass" };
  const at = joint.at_c === null ? "at 25 °C" : `at ${fixed(joint.at_c, 0)} °C`;
  const car = joint.by_car === "lets go" ? "; lets go on the way at 5 g" : "";
  return {
    tone: car ? "bad" : HOLDS[joint.says],
    text: `carries ${fixed(joint.carries_n)} ± ${fixed(joint.carries_half_n)} N ${at}, ${fixed(joint.weight_n)} N hang on it${car}`,
  };
}

export function besideSays(one: Schemas["BesideHeat"]): Said {
  if (one.at_c === null) return { tone: "plain", text: "no temperature yet" };
  const tone = ({ "stays cool": "good", "in doubt": "warn", "too hot": "bad" } as const)[one.says];
  return { tone, text: `gets ${fixed(one.at_c, 0)} °C, stays under ${fixed(one.under_c, 0)} °C for years` };
}

export function floorSays(sag: Schemas["FloorSag"]): Said {
  const tone = ({ carries: "good", "in doubt": "warn", sinks: "bad" } as const)[sag.says];
  const sinks = `${fixed(sag.spread_mm, 1)} to ${fixed(sag.middle_mm, 1)} mm in years under ${fixed(sag.weight_n, 0)} N`;
  return {
    tone,
    text: `The floor, ${fixed(sag.thickness_mm)} mm of ${sag.floor}, sinks by ${sinks}; ${fixed(sag.at_most_mm)} at most`,
  };
}
