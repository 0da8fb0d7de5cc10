import type { PlaceResult, WorkloadResult } from "$lib/api/client";

/** Layout of the kelvin terraces: width is watts, height is kelvins over the room. */
export type Block = {
  address: string;
  name: string;
  drop: number;
  watts: number;
  y: number;
  height: number;
  share: number;
};
export type Tower = {
  place: PlaceResult;
  x: number;
  width: number;
  blocks: Block[];
  top: number;
  limitY: number | null;
  bandTop: number | null;
  bandBottom: number | null;
};
export type TerraceBlock = {
  address: string;
  name: string;
  detail: string;
  overRoom: number;
  watts: number;
  x: number;
  width: number;
  y: number;
  height: number;
};
export type Drawing = {
  width: number;
  height: number;
  ground: number;
  ticks: { c: number; y: number }[];
  terraces: TerraceBlock[];
  towers: Tower[];
};

/** hops that the terrace under a tower stands for */
export const UNDER = ["shared", "body"];
const NARROWEST = 92;
/** what the source of most watts is wider than the narrowest, at least */
const SPREAD = 92;
const GAP = 4;
const GROUP_GAP = 16;
const LEFT = 46;
const TOP_SPACE = 22;

/** Widths by watts, but never narrower than a label needs: a long row scrolls instead of shrinking. */
export function widths(watts: number[], available: number): number[] {
  const room = available - GAP * Math.max(watts.length - 1, 0);
  const total = watts.reduce((sum, w) => sum + Math.max(w, 0.001), 0);
  const wide = watts.map((w) => Math.max((w / total) * room, NARROWEST));
  const excess = wide.reduce((sum, w) => sum + w, 0) - room;
  if (excess <= 0) return wide;
  const slack = wide.reduce((sum, w) => sum + (w - NARROWEST), 0);
  const keep = slack > excess ? 1 - excess / slack : 0;
  const mostWatts = Math.max(...watts, 0.001);
  return wide.map((w, i) =>
    Math.max(
      NARROWEST + (w - NARROWEST) * keep,
      NARROWEST + (watts[i]! / mostWatts) * SPREAD * Number(watts[i]! > 0.2 * mostWatts),
    ),
  );
}

type Scale = { room: number; y: (celsius: number) => number; perKelvin: number };

/** Places beside each other by what they share. */
function grouped(result: WorkloadResult) {
  return result.terraces
    .map((terrace) => ({ terrace, places: result.places.filter((place) => place.terrace === terrace.address) }))
    .filter((group) => group.places.length);
}

export function layOut(result: WorkloadResult, available: number, height: number): Drawing {
  const groups = grouped(result);
  const places = groups.flatMap((group) => group.places);
  const room = result.room_c;
  const hottest = Math.max(
    ...places.flatMap((p) => [p.temperature_c, p.limit_c ?? p.temperature_c, p.band_c?.high ?? 0]),
    room + 20,
  );
  const ground = height - 4;
  const perKelvin = (ground - TOP_SPACE) / (hottest - room + 2);
  const scale = { room, perKelvin, y: (celsius: number) => ground - (celsius - room) * perKelvin };
  const inner = available - LEFT - 8 - GROUP_GAP * Math.max(groups.length - 1, 0);
  const all = widths(
    places.map((place) => place.watts),
    inner,
  );

  const terraces: TerraceBlock[] = [];
  const towers: Tower[] = [];
  let x = LEFT;
  for (const { terrace, places: own } of groups) {
    const start = x;
    for (const place of own) {
      const width = all[towers.length]!;
      towers.push(tower(place, x, width, terrace.over_room_k, scale));
      x += width + GAP;
    }
    terraces.push(block(terrace, start, x - GAP - start, scale));
    x += GROUP_GAP - GAP;
  }
  const ticks = ticksBetween(room, hottest).map((c) => ({ c, y: scale.y(c) }));
  return { width: Math.max(x - GROUP_GAP + 8, available), height, ground, ticks, terraces, towers };
}

/** Round temperatures from a little over the room to the hottest. */
function ticksBetween(room: number, hottest: number): number[] {
  const step = hottest - room > 90 ? 25 : hottest - room > 45 ? 20 : 10;
  const first = Math.ceil((room + 4) / step) * step;
  return Array.from({ length: Math.max(Math.ceil((hottest - first) / step), 0) }, (_, i) => first + i * step);
}

function block(terrace: WorkloadResult["terraces"][number], x: number, width: number, scale: Scale): TerraceBlock {
  return {
    address: terrace.address,
    name: terrace.name,
    detail: terrace.detail,
    overRoom: terrace.over_room_k,
    watts: terrace.watts,
    x,
    width,
    y: scale.y(scale.room + Math.max(terrace.over_room_k, 0)),
    height: Math.max(terrace.over_room_k * scale.perKelvin, 2),
  };
}

function tower(place: PlaceResult, x: number, width: number, floor: number, { room, y, perKelvin }: Scale): Tower {
  const own = place.hops.filter((hop) => !UNDER.includes(hop.kind)).reverse();
  const span = Math.max((place.limit_c ?? place.temperature_c) - room, 1);
  let over = floor;
  const blocks = own.map((hop) => {
    const bottom = over;
    over += hop.drop_k;
    return {
      address: hop.address,
      name: hop.name,
      drop: hop.drop_k,
      watts: hop.watts,
      y: y(room + Math.max(over, bottom)),
      height: Math.abs(hop.drop_k) * perKelvin,
      share: (bottom + over) / 2 / span,
    };
  });
  return {
    place,
    x,
    width,
    blocks,
    top: y(place.temperature_c),
    limitY: place.limit_c === null ? null : y(place.limit_c),
    bandTop: place.band_c ? y(place.band_c.high) : null,
    bandBottom: place.band_c ? y(place.band_c.low) : null,
  };
}
