import { leaves } from "./elements";
import type { BuildDocument } from "./build";

/** Whether a notice is about air: a part or path of it, what feeds fans, or sound. */
export function isOfAir(address: string, document: BuildDocument | null): boolean {
  if (!document || address === "sound") return address === "sound";
  const feeds = (document["feeds"] ?? []) as { id: string }[];
  return (
    feeds.some((feed) => feed.id === address) ||
    document.air_paths.some((path) => path.id === address || leaves(path.elements).includes(address))
  );
}

const LISTS = ["slots", "contacts", "leads", "holdings", "near_heat"] as const;

/** Whether a notice is about what goes in: a slot, a plate's contact, a lead, what holds, the plan. */
export function isOfFit(address: string, document: BuildDocument | null): boolean {
  return address === "plan" || LISTS.some((list) => document?.[list].some((item) => item.id === address));
}
