/** What a kind of part may stand in. */
import type { PartKind } from "./build";

export const LOOP_KINDS: readonly string[] = [
  "pump",
  "plate",
  "radiator",
  "tube",
  "fitting",
  "coupling",
  "flow_meter",
  "strainer",
  "reservoir",
] satisfies PartKind[];
export const AIR_KINDS: readonly string[] = [
  "fan",
  "radiator",
  "opening",
  "filter",
  "duct",
  "gap",
  "obstacle",
  "cooler",
  "sink",
  "supply",
] satisfies PartKind[];
export const BODY_KINDS: readonly string[] = ["sink", "panel"] satisfies PartKind[];
