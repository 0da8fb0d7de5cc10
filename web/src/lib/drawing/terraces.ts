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
  /** small hops that are drawn as one until somebody opens them */
  merged: Block[];
};
export type Tower = {
  place: PlaceResult;
  x: number;
  width: number;
  blocks: Block[];
  top: number;
  limitY: number | null;
  /** how much of the tower stands over its limit */
  overshoot: number;
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
/** blocks too low for a label, and so many of them one above the other, are drawn as one */
const LABELLED = 15;
const MANY = 2;
const MOST_TICKS = 8;

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

/** In which order places stand, and in which towers small hops are shown one by one. */
export type Shown = { order?: string[]; opened?: string[] };

/** Places beside each other by what they share, in an order where one is given. */
function grouped(result: WorkloadResult, order: string[]) {
  const at = (address: string) => (order.includes(address) ? order.indexOf(address) : order.length);
  const first = (places: PlaceResult[]) => Math.min(...places.map((place) => at(place.address)));
  return result.terraces
    .map((terrace) => ({
      terrace,
      places: result.places
        .filter((place) => place.terrace === terrace.address)
        .sort((a, b) => at(a.address) - at(b.address)),
    }))
    .filter((group) => group.places.length)
    .sort((a, b) => first(a.places) - first(b.places));
}

/** Addresses of all places, the one with the least to spare first; those without a limit last. */
export const tightestFirst = (result: WorkloadResult): string[] =>
  [...result.places]
    .sort((a, b) => (a.margin_k ?? Infinity) - (b.margin_k ?? Infinity) || 0)
    .map((place) => place.address);

export function layOut(result: WorkloadResult, available: number, height: number, shown: Shown = {}): Drawing {
  const groups = grouped(result, shown.order ?? []);
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
      const whole = shown.opened?.includes(place.address) ?? false;
      towers.push(tower(place, x, width, terrace.over_room_k, scale, whole));
      x += width + GAP;
    }
    terraces.push(block(terrace, start, x - GAP - start, scale));
    x += GROUP_GAP - GAP;
  }
  const ticks = ticksBetween(room, hottest).map((c) => ({ c, y: scale.y(c) }));
  return { width: Math.max(x - GROUP_GAP + 8, available), height, ground, ticks, terraces, towers };
}

const STEPS = [10, 20, 25, 50, 100, 200, 500, 1000];
/** Round temperatures from a little over the room to the hottest, no more than can be told apart. */
function ticksBetween(room: number, hottest: number): number[] {
  const coarse = hottest - room > 90 ? 25 : hottest - room > 45 ? 20 : 10;
  const step = STEPS.find((one) => one >= coarse && (hottest - room) / one <= MOST_TICKS) ?? STEPS.at(-1)!;
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

function tower(place: PlaceResult, x: number, width: number, floor: number, scale: Scale, whole: boolean): Tower {
  const { room, y, perKelvin } = scale;
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
      merged: [],
    };
  });
  const top = y(place.temperature_c);
  const limitY = place.limit_c === null ? null : y(place.limit_c);
  return {
    place,
    x,
    width,
    blocks: whole ? blocks : merged(blocks),
    top,
    limitY,
    overshoot: limitY === null ? 0 : Math.max(limitY - top, 0),
    bandTop: place.band_c ? y(place.band_c.high) : null,
    bandBottom: place.band_c ? y(place.band_c.low) : null,
  };
}

/** Neighbours that are too low for a label become one block, with their kelvins together. */
function merged(blocks: Block[]): Block[] {
  const runs: Block[][] = [];
  for (const block of blocks) {
    const run = runs.at(-1);
    if (run && block.height < LABELLED && run.every((one) => one.height < LABELLED)) run.push(block);
    else runs.push([block]);
  }
  return runs.flatMap((run) => (run.length < MANY ? run : [oneOf(run)]));
}

function oneOf(run: Block[]): Block {
  const upper = Math.min(...run.map((block) => block.y));
  const lower = Math.max(...run.map((block) => block.y + block.height));
  const sum = (of: (block: Block) => number) => run.reduce((total, block) => total + of(block), 0);
  return {
    address: run[0]!.address,
    name: `${run.length} small hops`,
    drop: sum((block) => block.drop),
    watts: Math.max(...run.map((block) => block.watts)),
    y: upper,
    height: lower - upper,
    share: sum((block) => block.share) / run.length,
    merged: run,
  };
}
