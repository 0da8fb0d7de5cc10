import type { PlaceResult, Schemas } from "$lib/api/client";

/** The one figure to read from a metre away: the part that stands closest to its limit when the load ends. */
export type Lead = { name: string; celsius: number; spare: number; minute: number };

export function leadOf(series: Schemas["SeriesOut"], places: PlaceResult[], from: number, to: number): Lead | null {
  const found = series.channels.flatMap((channel): Lead[] => {
    const place = places.find((one) => channel.role === `${one.address}/temperature`);
    const at = channel.values.findLastIndex((value, i) => value !== null && channel.minutes[i]! <= to);
    if (!place || place.limit_c === null || at < 0) return [];
    const celsius = channel.values[at]!;
    return [{ name: place.name, celsius, spare: place.limit_c - celsius, minute: channel.minutes[at]! - from }];
  });
  return found.sort((a, b) => a.spare - b.spare)[0] ?? null;
}
