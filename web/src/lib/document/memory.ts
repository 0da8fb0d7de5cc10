/** Watts of memory from its setting: rate, voltage, how many modules, how they are built (values from memory, ± 25 %). */
import type { BuildDocument, Part } from "./build";

export type Memory = { modules: number; rate: number; volts: number; twoSided: boolean; checked: boolean };

/** a module at its generation's own rate (MT/s) and voltage */
const MODULE_W = 2.5;
const NEW = { rate: 5200, volts: 1.1 };
const OLD = { rate: 2666, volts: 1.2 };
/** rates from here on are of the newer generation */
const NEW_FROM = 4000;
const STANDING = 0.45;
const TWO_SIDED = 1.4;
const CHECKED = 1.12;

/** W of all modules under load: (V/V0)² (0.45 + 0.55 f/f0), two-sided × 1.4, with check bits × 1.12. */
export function memoryWatts({ modules, rate, volts, twoSided, checked }: Memory): number {
  const own = rate >= NEW_FROM ? NEW : OLD;
  const module = MODULE_W * (volts / own.volts) ** 2 * (STANDING + (1 - STANDING) * (rate / own.rate));
  return modules * module * (twoSided ? TWO_SIDED : 1) * (checked ? CHECKED : 1);
}

export const isMemory = (part: Part): boolean =>
  part.kind === "source" && part.places.some((place) => String(place.class ?? "").startsWith("memory"));

/** Take the watts over for a workload, as a rule of thumb with its tolerance. */
export function takeMemory(draft: BuildDocument, sourceId: string, workloadId: string, watts: number): void {
  const workload = draft.workloads.find((one) => one.id === workloadId);
  if (workload)
    workload.watts[sourceId] = { value: Number(watts.toPrecision(3)), plus_minus: "25%", from: "rule_of_thumb" };
}
