import type { Schemas } from "../api/client";
import type { Part } from "../document/build";
import type { ShelfItem } from "../state/shelf.svelte";
import { signed } from "../units/format";

/** A substitute in a part's place: what it is, under the old one's name unless it brings its own; it remembers its shelf. */
export function standingIn(old: Part, one: Schemas["Substitute"], item: ShelfItem | undefined): Part {
  const { name = old.name || one.name, ...part } = one.part as unknown as Part;
  const origin = item?.own ? { from_shelf: { item: item.id, version: item.version } } : {};
  return { ...part, name, ...origin } as Part;
}

/** By how much each side is larger, or nothing where none is. */
export function larger(mm: number[] | null): string {
  if (!mm) return "size unknown";
  return mm.some((side) => Math.abs(side) >= 0.5) ? `${mm.map((side) => signed(side, 0)).join(" × ")} mm` : "same size";
}
