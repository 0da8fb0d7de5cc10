/** Arithmetic of the view In time: labels that do not crowd, values at a minute, a logarithmic ruler. */
import type { Schemas } from "$lib/api/client";
import { fixed } from "$lib/units/format";

/** a firmware that is late by less is told to act at once, s */
const LATE_S = 0.1;

export type InTime = Schemas["InTime"];
export type Aim = Pick<Schemas["AimIn"], "kind" | "of"> & { key: string; says: string; minutes: number };
export type Curve = InTime["curves"][number];

/** Places of labels at least ``gap`` apart, each as near to where it belongs as the others let it, none below ``low``. */
export function apart(wanted: readonly number[], gap: number, low: number): number[] {
  const order = wanted.map((y, i) => [y, i] as const).sort((a, b) => a[0] - b[0]);
  const found = new Array<number>(wanted.length);
  let last = -Infinity;
  for (const [y, i] of order) last = found[i] = Math.max(y, last + gap);
  let next = low;
  for (const [, i] of [...order].reverse()) {
    found[i] = Math.min(found[i]!, next);
    next = found[i]! - gap;
  }
  return found;
}

/** A curve at a minute, in proportion between two of the answer's. */
export function at(minutes: readonly number[], values: readonly number[] | null, minute: number): number | null {
  if (!values?.length) return null;
  const upper = minutes.findIndex((m) => m >= minute);
  if (upper < 0) return values.at(-1) ?? null;
  if (upper === 0) return values[0] ?? null;
  const span = minutes[upper]! - minutes[upper - 1]!;
  const share = span > 0 ? (minute - minutes[upper - 1]!) / span : 1;
  return values[upper - 1]! + share * (values[upper]! - values[upper - 1]!);
}

/** What lies over one hop at a minute of the load, K. */
export const dropAt = (told: InTime, hop: Curve["hops"][number], minute: number): number =>
  at(told.hop_minutes, hop.drop_k, Math.max(minute, 0)) ?? 0;

/** What changes may be ranked by: the bursts of a load, the place in view after so many minutes, watts given up. */
export function aimsOf(told: InTime, inView: string, minute: number): Aim[] {
  const place = told.curves.find((curve) => curve.address === inView);
  const minutes = Math.max(Math.round(minute), 1);
  return [
    ...(place
      ? [{ key: "after", says: `${place.name} after ${minutes} min`, kind: "after" as const, of: inView, minutes }]
      : []),
    ...told.bursts.map((burst) => ({
      key: `burst/${burst.source}`,
      says: `burst of ${burst.name}`,
      kind: "burst" as const,
      of: burst.source,
      minutes,
    })),
    ...told.held_back.map((held) => ({
      key: `held/${held.source}`,
      says: `watts that ${held.name} gives up`,
      kind: "held_back" as const,
      of: held.source,
      minutes: Math.max(told.minutes.at(-1) ?? 1, 1),
    })),
  ];
}

/** Per cent of the work that is lost, from work that mostly waits for others to work that follows the clock: "4 to 7". */
export function lostWork(share: { low: number; high: number }): string {
  const [least, most] = [share.high, share.low].map((kept) => fixed(100 * (1 - kept), 0));
  return least === most ? least! : `${least} to ${most}`;
}

/** What a firmware adds to the limit that it holds: how late it is, how far that lets a place go, where it gives back. */
export function ofFirmware(held: InTime["held_back"][number]): string {
  const said: string[] = [];
  if (held.late_s !== null && held.late_s.high >= LATE_S)
    said.push(
      `Its firmware acts ${fixed(held.late_s.low, 1)} to ${fixed(held.late_s.high, 1)} s after the limit is met: ` +
        (held.over_k < 0.05 ? "nothing is seen of that." : `${fixed(held.over_k, 1)} K over it at most.`),
    );
  if (held.gives_back_k !== null) {
    const { low, high } = held.gives_back_k;
    said.push(
      `It gives watts back ${fixed(low, 0)} to ${fixed(high, 0)} K below: what a sensor reads swings, ` +
        `${fixed((low + high) / 4, 0)} K under the limit on average.`,
    );
  }
  return said.join(" ");
}

/** Share of its rise that a curve has done at a minute; null where it hardly rises. */
export function risen(told: InTime, curve: Curve, minute: number): number | null {
  const start = at(told.minutes, curve.c, 0);
  const now = at(told.minutes, curve.c, minute);
  if (start === null || now === null || Math.abs(curve.settles_c - start) < 0.5) return null;
  return (now - start) / (curve.settles_c - start);
}

/** Where a time stands on the ruler of all constants: from a tenth of a second to four hours, logarithmic, 0 to 1. */
export const RULER_S = [0.1, 14_400] as const;
export function onRuler(seconds: number): number {
  const [low, high] = RULER_S.map(Math.log10);
  const share = (Math.log10(Math.max(seconds, RULER_S[0])) - low!) / (high! - low!);
  return Math.min(Math.max(share, 0), 1);
}
