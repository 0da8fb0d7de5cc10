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

/** Whether a notice is about what goes in: a slot, a plate's contact, the plan. */
export function isOfFit(address: string, document: BuildDocument | null): boolean {
  return (
    address === "plan" ||
    [...(document?.slots ?? []), ...(document?.contacts ?? [])].some((item) => item.id === address)
  );
}
