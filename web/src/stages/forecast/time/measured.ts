/** A run laid over the forecast in time: its channels by the curve that they measure, minutes from when its load came on. */
import type { Schemas } from "$lib/api/client";

export type Measured = { address: string; points: [number, number][] };

/** What of a role names a curve: a place's temperature, a loop's hot coolant, a zone's air. */
const MEASURES = /^(.+)\/(temperature|coolant_hot|air)$/;

export function measuredOf(series: Schemas["SeriesOut"], startsMin: number, endsMin: number): Measured[] {
  return series.channels.flatMap((channel) => {
    const address = MEASURES.exec(channel.role)?.[1];
    if (!address || channel.unit !== "°C") return [];
    const points = channel.minutes.flatMap((minute, i): [number, number][] => {
      const value = channel.values[i];
      const inside = minute - startsMin >= -10 && minute <= endsMin;
      return inside && value !== null && value !== undefined ? [[minute - startsMin, value]] : [];
    });
    return points.length > 1 ? [{ address, points }] : [];
  });
}
