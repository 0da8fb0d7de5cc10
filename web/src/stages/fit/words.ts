/** What a slot, a joint and a plan say of themselves, in words. */
import type { Schemas } from "$lib/api/client";
import { STATUS, toneOf, type Tone } from "$lib/ui/tones";
import { fixed } from "$lib/units/format";

export type StackFit = Schemas["StackFit"];
export type ContactFit = Schemas["ContactFit"];
export { STATUS, toneOf, type Tone };

export function headOf(fit: StackFit): string {
  if (fit.says === "unknown")
    return `Unknown: ${fit.unknown[0]} ${fit.unknown.length > 1 ? `and ${fit.unknown.length - 1} more have` : "has"} no thickness`;
  if (fit.says === "does not fit") return "Does not go in";
  if (fit.says === "measure") return "Measure: the tolerance decides";
  return fit.says === "fits" ? "Goes in" : "Goes in by class figures";
}

const BREATHES: Record<NonNullable<StackFit["breathes"]>, string> = {
  freely: "breathes freely",
  well: "breathes well",
  loudly: "breathes loudly",
  starved: "is starved",
};

/** One or two sentences beneath the head. */
export function sentenceOf(fit: StackFit): string {
  if (fit.takes_mm === null || fit.left_mm === null) return "Type it, or give the part a class or an outline.";
  const takes = `The stack takes ${fixed(fit.takes_mm)} of ${fixed(fit.gap_mm)} mm`;
  const breath = fit.breathes && fit.left_mm > 0 ? `; with ${fixed(fit.left_mm)} mm it ${BREATHES[fit.breathes]}` : "";
  return `${takes}${breath}.`;
}

/** Fan blades and screws, where there is something to say; the worst first. */
export function asides(fit: StackFit): { tone: Tone; text: string }[] {
  const found: { tone: Tone; text: string }[] = [];
  const { blades_mm: free, blades_half_mm: half, rubs_on: on, screws } = fit;
  if (free !== null && half !== null && free < half)
    found.push({
      tone: free < -half ? "bad" : "warn",
      text: `Blades keep ${fixed(free + 1)} ± ${fixed(half)} mm to ${on}: they ${free < -half ? "rub" : "may rub"} (1.0 wanted).`,
    });
  if (screws) {
    const length = `Screws of ${fixed(screws.length_mm, 0)} mm`;
    const band = `± ${fixed(screws.half_mm)} mm`;
    if (screws.says === "too short")
      found.push({
        tone: "bad",
        text: `${length} hold ${fixed(Math.max(screws.hold_mm, 0))} mm in the radiator: too short.`,
      });
    else if (screws.says === "reach the tubes")
      found.push({ tone: "bad", text: `${length} reach ${fixed(-screws.before_tube_mm)} ${band} into the tubes.` });
    else
      found.push({
        tone: screws.says === "fit" ? "good" : "warn",
        text: `${length} end ${fixed(screws.before_tube_mm)} ${band} before the tubes.`,
      });
  }
  return found;
}

type JointSays = Schemas["JointFit"]["says"];
export const JOINT_TONE: Record<JointSays, Tone> = {
  touches: "good",
  clears: "good",
  "presses little": "warn",
  close: "warn",
  lifts: "bad",
  rests: "bad",
  floats: "bad",
};

export function contactHead(fit: ContactFit): string {
  const worst = fit.joints.find((joint) => joint.joint === fit.worst);
  if (!worst) return "";
  if (fit.lifted_mm > 0) {
    const by = fit.joints.find((joint) => joint.joint === fit.carried_by)?.name ?? "a neighbour";
    return `Rests on ${by}: the chip floats by ${fixed(fit.lifted_mm, 2)} mm`;
  }
  if (worst.says === "floats") return `Floats by ${fixed(worst.air_mm, 2)} mm over ${worst.name}`;
  if (worst.says === "presses little") return `Touches ${worst.name} barely`;
  if (worst.says === "close") return `${worst.name} may touch the plate`;
  if (fit.chip_n !== null && fit.force_n !== null && fit.chip_n < fit.force_n / 2)
    return "Touches, but the pads take more than half the force";
  return "Touches everywhere";
}

export function contactTone(fit: ContactFit): Tone {
  if (fit.lifted_mm > 0) return "bad";
  const worst = JOINT_TONE[fit.says];
  const weak = fit.chip_n !== null && fit.force_n !== null && fit.chip_n < fit.force_n / 2;
  return worst === "good" && (weak || fit.bond_factor > 1.1) ? "warn" : worst;
}

export const CLASH: Record<Schemas["Clash"]["says"], Tone> = {
  collides: "bad",
  "in its room": "warn",
  measure: "warn",
  close: "warn",
};
