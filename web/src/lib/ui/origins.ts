/** Where a figure comes from, in one word and as a dot: filled is yours, half is printed, a ring is its class's, dots are a guess. */
import { originOf, type Figure } from "$lib/document/build";

export type OriginKind = "stated" | "measured" | "calibrated" | "datasheet" | "class" | "rule_of_thumb" | "estimate";

export const ORIGIN_WORDS: Record<OriginKind, string> = {
  stated: "yours",
  measured: "measured",
  calibrated: "calibrated",
  datasheet: "data sheet",
  class: "class figure",
  rule_of_thumb: "rule of thumb",
  estimate: "guess",
};

export const SHAPES: Record<OriginKind, "full" | "half" | "ring" | "dots"> = {
  stated: "full",
  measured: "full",
  calibrated: "full",
  datasheet: "half",
  class: "ring",
  rule_of_thumb: "dots",
  estimate: "dots",
};

/** A bare number is what somebody typed; nothing at all is what its class says. */
export const kindOf = (figure: Figure | null | undefined): OriginKind => originOf(figure) ?? "stated";
