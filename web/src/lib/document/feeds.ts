/** What parts hang on: plugs, splitters, hubs, and what mends a plug that carries too much. */
import type { BuildDocument } from "./build";
import { freeId } from "./ids";
import type { Schemas } from "../api/client";

export type Feed = Schemas["Feed"];
export type FeedClass = NonNullable<Feed["class"]>;

/** Words and kinds of the classes that somebody chooses from. */
export const FEED_CLASSES: [FeedClass, NonNullable<Feed["kind"]>, string][] = [
  ["fan_plug", "header", "fan plug, 1 A"],
  ["fan_plug_strong", "header", "fan plug, 2 A"],
  ["fan_plug_5v", "header", "fan plug, 5 V"],
  ["pump_plug", "header", "pump plug, 2 A"],
  ["splitter_fan", "splitter", "fan splitter"],
  ["hub_drive", "hub", "four-way splitter with its own feed"],
  ["main_24", "plug", "main plug, 24 contacts"],
  ["processor_4", "plug", "processor plug, 4 contacts"],
  ["processor_8", "plug", "processor plug, 8 contacts"],
  ["graphics_6", "plug", "graphics plug, 6 contacts, 75 W"],
  ["graphics_8", "plug", "graphics plug, 8 contacts, 150 W"],
  ["graphics_split", "plug", "graphics lead that ends in two plugs, 225 W"],
  ["graphics_16", "plug", "graphics plug, 12 + 4 contacts"],
  ["drive_flat", "plug", "drive plug, flat, 54 W"],
  ["drive_old", "plug", "drive plug, old"],
  ["adapter_6", "adapter", "drive to graphics adapter, 54 W"],
  ["slot_full", "slot", "graphics slot, 75 W"],
  ["slot_low", "slot", "graphics slot, low card, 25 W"],
  ["slot_x4", "slot", "slot of 4 lanes, 25 W"],
  ["slot_x1", "slot", "slot of one lane, 10 W"],
  ["stick_slot", "slot", "slot for stick drives"],
  ["riser_passive", "slot", "riser without a feed of its own"],
  ["riser_drive", "adapter", "riser fed by a drive plug, 54 W"],
  ["port_5v", "plug", "front port, 0.9 A"],
  ["port_5v_fast", "plug", "front port, 3 A"],
  ["brick_round", "brick", "brick, round plug"],
  ["brick_square", "brick", "brick, square plug"],
  ["brick_4", "brick", "brick, four contacts"],
];

/** A feed of a class, hung on another one or on a supply. */
export function addFeed(draft: BuildDocument, ofClass: FeedClass, fedBy: string | null): string {
  const [, kind, words] = FEED_CLASSES.find(([id]) => id === ofClass)!;
  const id = freeId(draft, ofClass.replaceAll("_", "-"));
  const name = words.split(",")[0]!;
  draft.feeds.push({ id, name: name.charAt(0).toUpperCase() + name.slice(1), kind, class: ofClass, fed_by: fedBy });
  return id;
}

export function changeFeed(draft: BuildDocument, id: string, change: Partial<Feed>): void {
  const feed = draft.feeds.find((one) => one.id === id);
  if (feed) Object.assign(feed, change);
}

/** Whether a feed hangs on another one, over however many between. */
export function hangsOn(draft: BuildDocument, id: string, on: string): boolean {
  for (let at: string | null | undefined = id; at; at = draft.feeds.find((one) => one.id === at)?.fed_by)
    if (at === on) return true;
  return false;
}

/** A feed is gone; what hung on it hangs on what it hung on, where that is a feed. */
export function removeFeed(draft: BuildDocument, id: string): void {
  const to = draft.feeds.find((one) => one.id === id)?.fed_by ?? null;
  draft.feeds = draft.feeds.filter((one) => one.id !== id);
  for (const feed of draft.feeds) if (feed.fed_by === id) feed.fed_by = to;
  for (const part of draft.parts) {
    if (part.feed === id) part.feed = to;
    if (part.also_fed) part.also_fed = part.also_fed.filter((feed) => feed !== id);
  }
}

/** Hang a part on one feed, or on none. */
export function feedPart(draft: BuildDocument, part: string, feed: string | null): void {
  const found = draft.parts.find((one) => one.id === part);
  if (!found) return;
  found.feed = feed;
  if (found.also_fed) found.also_fed = found.also_fed.filter((one) => one !== feed);
}

/** What a plug that carries too much is mended by: a four-way splitter with its own feed, which goes on the list to buy. */
export function mend(draft: BuildDocument, overloaded: string): string {
  const supply = draft.parts.find((part) => part.kind === "supply")?.id ?? null;
  const hub = addFeed(draft, "hub_drive", supply);
  changeFeed(draft, hub, { stock: "to_buy" });
  for (const part of draft.parts)
    if (part.kind === "fan" && part.feed && hangsOn(draft, part.feed, overloaded)) part.feed = hub;
  return hub;
}

/** Whether a feed ends at a plug of its own in the wall: it can be off while the machine is on, and on while it is off. */
export function hasOwnMains(draft: BuildDocument, id: string): boolean {
  const feed = draft.feeds.find((one) => one.id === id);
  if (!feed) return false;
  if (feed.fed_by) return hasOwnMains(draft, feed.fed_by);
  return feed.kind === "mains" || feed.kind === "brick";
}

export type Switch = { name: string; stops: string[]; staysOn: string[] };

/** Every switch with what stops with it, and what it leaves on: parts that draw something. */
export function switchesOf(draft: BuildDocument): Switch[] {
  const names = [...new Set(draft.feeds.map((feed) => feed.switched_by).filter((name): name is string => !!name))];
  const drawing = draft.parts.filter((part) => part.feed && ["source", "fan", "pump"].includes(part.kind));
  return names.map((name) => {
    const off = draft.feeds.filter((feed) => feed.switched_by === name);
    const stops = drawing.filter((part) => off.some((feed) => hangsOn(draft, part.feed!, feed.id)));
    return {
      name,
      stops: stops.map((part) => part.name || part.id),
      staysOn: drawing.filter((part) => !stops.includes(part)).map((part) => part.name || part.id),
    };
  });
}
