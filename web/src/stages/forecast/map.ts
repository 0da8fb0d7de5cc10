import { isDuty } from "$lib/document/addresses";
import type { MapAxis } from "$lib/document/vary";
import { position } from "$lib/drawing/scale";

export type Crossing = { row: number; column: number };

/** a margin of so many kelvins is as full a colour as there is */
const FULL_K = 40;
const PALEST = 12;
/** Status colours, the fuller the further from the limit on either side: temperature keeps its own ramp. */
export function marginColour(value: number | null | undefined): string {
  if (value == null) return "var(--sunk)";
  const share = Math.round(PALEST + (100 - PALEST) * Math.min(Math.abs(value) / FULL_K, 1));
  return `color-mix(in oklab, var(${value < 0 ? "--too-hot" : "--holds"}) ${share}%, var(--panel))`;
}

/** A value of an axis as it is read: duties in per cent, others in their unit. */
export const shownOn = (axis: MapAxis | undefined, value: number): string =>
  axis && isDuty(axis.address) ? `${Math.round(100 * value)} %` : `${Number(value.toPrecision(3))} ${axis?.unit ?? ""}`;

/** Whether the build as it stands lies on the values of an axis. */
export const inReach = (axis: { values: number[]; now: number | null }): boolean =>
  position(axis.values, axis.now) !== null;

/** What is to spare at each crossing less half of its 90 % band. */
export const lessBand = (answer: { spare_k: (number | null)[][]; half_k: (number | null)[][] }): (number | null)[][] =>
  answer.spare_k.map((row, r) =>
    row.map((spare, c) => {
      const half = answer.half_k[r]?.[c];
      return spare === null || half == null ? null : spare - half;
    }),
  );
