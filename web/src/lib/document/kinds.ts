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

/** Figures that a part may state and that its class does not name, with what they start at. */
export const OPTIONAL: Record<string, Record<string, number>> = {
  radiator: { factor: 1, air_factor: 1, covered_share: 0.5, dust: 0.5, drop_4_kpa: 3, volume_ml: 200 },
  plate: { factor: 1, volume_ml: 40 },
  pump: { level_dba: 30, highest_kpa: 60 },
  fan: { level_dba: 27, current_a: 0.2, start_duty: 0.2, highest_duty: 1 },
  cooler: { factor: 1, pressure_pa: 10 },
  duct: { leak_cm2: 1, loss: 1, roughness_mm: 0.05 },
  opening: { loss: 2.5, free_area_share: 0.5 },
  reservoir: { fill_share: 0.85, volume_ml: 180 },
  fitting: { highest_kpa: 100 },
  coupling: { highest_kpa: 150 },
  box: { cross_section_cm2: 400, wall_w_k: 2, heat_capacity_j_k: 2500 },
  outside: { air_c: 20 },
  loop: { volume_l: 0.8 },
  sink: {
    emissivity: 0.8,
    conductivity_w_mk: 195,
    base_mm: 8,
    fin_thickness_mm: 1.8,
    cut_share: 0.1,
    holes_share: 0.1,
    facing_mm: 50,
    bypass_cm2: 20,
    factor: 1,
  },
  panel: { emissivity: 0.8, conductivity_w_mk: 130, holes_share: 0.1, factor: 1 },
  heat_pipe: {
    diameter_mm: 8,
    flat_mm: 5,
    lift_mm: 0,
    bend_radius_mm: 25,
    groove_pitch_mm: 20,
    groove_mm2k_w: 25,
    uneven: 1.25,
    limit_w: 65,
  },
  spreader: { resistance_k_w: 0.05, width_mm: 40, length_mm: 40, thickness_mm: 8, conductivity_w_mk: 385 },
  interface: {
    resistance_mm2k_w: 14,
    coverage: 0.8,
    area_mm2: 900,
    bond_line_um: 40,
    conductivity_w_mk: 4,
    pressure_kpa: 500,
  },
};
