import { css, heat } from "$lib/drawing/colour";
import { isDuty } from "$lib/document/addresses";
import type { MapAxis } from "$lib/document/vary";
import { position } from "$lib/drawing/scale";

export type Crossing = { row: number; column: number };

const COOL_K = 40;
/** Temperature colours: no margin left is the limit, 40 K of it is cool. */
export const marginColour = (value: number | null | undefined): string =>
  value == null ? "var(--sunk)" : css(heat(1 - value / COOL_K));

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
