/** All numbers on the screen pass through here: fixed decimals, a real minus sign, units beside them. */
export function fixed(value: number | null | undefined, decimals = 1): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return "–";
  const text = Math.abs(value).toFixed(decimals);
  return value < 0 && Number(text) !== 0 ? `−${text}` : text;
}

export function signed(value: number | null | undefined, decimals = 1): string {
  const text = fixed(value, decimals);
  return text === "–" || text.startsWith("−") ? text : `+${text}`;
}

/** A figure of any size as people would write it: four digits that count, no noughts behind them. */
export function significant(value: number | null | undefined, digits = 4): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return "–";
  return String(Number(value.toPrecision(digits))).replace("-", "−");
}

export const celsius = (value: number | null | undefined, decimals = 1) => `${fixed(value, decimals)} °C`;
export const kelvins = (value: number | null | undefined, decimals = 1) => `${fixed(value, decimals)} K`;
/** A sound level; a machine that nothing turns in is silent, not at 0.0 dBA. */
export const level = (value: number | null | undefined) =>
  value !== null && value !== undefined && value <= 0 ? "silent" : `${fixed(value)} dBA`;
export const watts = (value: number | null | undefined) =>
  `${fixed(value, value !== null && value !== undefined && Math.abs(value) < 10 ? 1 : 0)} W`;

/** Half the width of a band. */
export function half(band: { low: number; high: number } | null | undefined): number | null {
  return band ? (band.high - band.low) / 2 : null;
}

/** A number as people type it: comma or point; null where it is none. */
export function parseNumber(text: string): number | null {
  const clean = text.trim().replace("−", "-").replace(",", ".");
  if (!/^[+-]?(\d+\.?\d*|\.\d+)$/.test(clean)) return null;
  return Number(clean);
}

const UNITS: [RegExp, string][] = [
  [/_mm2k_w$/, "mm²·K/W"],
  [/_w_mk$/, "W/m·K"],
  [/_l_min$/, "l/min"],
  [/_m3_h$/, "m³/h"],
  [/_k_w$/, "K/W"],
  [/_w_k$/, "W/K"],
  [/_j_k$/, "J/K"],
  [/_mm2$/, "mm²"],
  [/_cm2$/, "cm²"],
  [/_mm$/, "mm"],
  [/_um$/, "µm"],
  [/_mpa$/, "MPa"],
  [/_kpa$/, "kPa"],
  [/_pa$/, "Pa"],
  [/_a$/, "A"],
  [/_rpm$/, "rpm"],
  [/_dba$/, "dBA"],
  [/_ml$/, "ml"],
  [/_w$|^watts$/, "W"],
  [/_c$/, "°C"],
  [/_l$/, "l"],
  [/_m$/, "m"],
  [/_g$/, "g"],
];

/** The unit that a field's name carries. */
export function unitOf(field: string): string {
  return UNITS.find(([ending]) => ending.test(field))?.[1] ?? "";
}

/** A field's name as words, without its unit. */
export function words(field: string): string {
  const known: Record<string, string> = {
    chip_mm2k_w: "chip, to its top",
    hot_core_mm2k_w: "hot core, all cores",
    hot_core_few_mm2k_w: "hot core, few cores",
    joint_mm2k_w: "lid joint",
    lid_w_mk: "lid conductivity",
    package_k_w: "package to its face",
    resistance_mm2k_w: "resistance",
    resistance_1_k_w: "resistance at 1 l/min",
    resistance_4_k_w: "resistance at 4 l/min",
    drop_1_kpa: "drop at 1 l/min",
    drop_4_kpa: "drop at 4 l/min",
    factor: "factor on its result",
    air_factor: "factor on air drop",
    heat_capacity_j_k: "heat capacity",
    level_dba: "level at 1 m",
    loss: "loss coefficient",
    pressure_pa: "pressure at rated air flow",
    rated_airflow_m3_h: "rated air flow",
    resistance_k_w: "resistance, as rated",
    covered_share: "share of the face with air",
    dust: "dust, 0 clean to 1 loaded",
    recirculated_share: "share drawn in again",
    leak_cm2: "leak",
    bend_loss: "loss of a bend",
    evaporator_mm: "heated length",
    adiabatic_mm: "free length",
    condenser_mm: "cooled length",
    evaporator_k_w: "evaporator, 40 mm heated",
    condenser_k_w: "condenser, 90 mm cooled",
    groove_mm2k_w: "joint in its groove",
    groove_pitch_mm: "pitch of the grooves",
    limit_w: "limit, level, at 60 °C",
    lift_mm: "evaporator above condenser",
    flat_mm: "pressed flat to",
    uneven: "busiest over the mean pipe",
    cut_share: "share of the fins cut away",
    holes_share: "share of holes in the base",
    facing_mm: "distance to what stands before it",
    bypass_cm2: "free area beside the fins",
    base_mm: "base",
    fin_pitch_mm: "fin pitch",
    faces_w_mk: "conductivity of both faces",
  };
  return (
    known[field] ??
    field.replace(/_(w_mk|mm2|cm2|mm|um|mpa|kpa|pa|m3_h|rpm|dba|ml|w|a|c|l|m|g|l_min)$/, "").replaceAll("_", " ")
  );
}

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const two = (value: number) => String(value).padStart(2, "0");

/** A day that reads the same everywhere: 26 Nov 2026. */
export function day(at: Date | string): string {
  const date = new Date(at);
  return `${date.getDate()} ${MONTHS[date.getMonth()]} ${date.getFullYear()}`;
}

/** The time of a day, 24 hours: 09:05. */
export function clock(at: Date | string): string {
  const date = new Date(at);
  return `${two(date.getHours())}:${two(date.getMinutes())}`;
}
