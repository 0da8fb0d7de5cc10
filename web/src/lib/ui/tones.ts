/** How a verdict on a length looks. */
import type { Schemas } from "../api/client";

export type Tone = "good" | "warn" | "bad" | "plain";

/** Shape and colour of a verdict: never colour alone. */
export const STATUS: Record<Tone, string> = { good: "holds", warn: "tight", bad: "too hot", plain: "unknown" };

export function toneOf(says: Schemas["StackFit"]["says"]): Tone {
  if (says === "fits") return "good";
  if (says === "does not fit") return "bad";
  return says === "unknown" ? "plain" : "warn";
}
