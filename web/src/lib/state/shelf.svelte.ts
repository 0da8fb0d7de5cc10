import { client, faultsOf, type Fault, type Schemas } from "../api/client";
import type { BuildDocument, Part } from "../document/build";

export type ShelfItem = Schemas["ShelfItemOut"];

/** One's own parts and the class-typical ones that ship with Krill. */
class Shelf {
  items = $state.raw<ShelfItem[]>([]);
  faults = $state.raw<Fault[]>([]);

  async load() {
    const { data, error } = await client.GET("/api/shelf");
    if (data) this.items = data;
    this.faults = data ? [] : faultsOf(error);
  }

  /** Items that hold all the words, of the asked kinds. */
  found(text: string, kinds?: readonly string[]): ShelfItem[] {
    const words = text.toLowerCase().split(/\s+/).filter(Boolean);
    return this.items.filter((item) => {
      const hay = `${item.name} ${item.kind} ${String(item.part["class"] ?? "")}`.toLowerCase().replaceAll("_", " ");
      return (!kinds || kinds.includes(item.kind)) && words.every((word) => hay.includes(word));
    });
  }

  async put(name: string, part: Record<string, unknown>): Promise<Fault[]> {
    const { error } = await client.POST("/api/shelf", { body: { name, part } });
    if (error) return faultsOf(error);
    await this.load();
    return [];
  }

  /** Why an item of one's own did not help, kept beside it. */
  async tried(slug: string, word: string, build: string): Promise<Fault[]> {
    const { error } = await client.POST("/api/shelf/{slug}/tried", {
      params: { path: { slug } },
      body: { word, build },
    });
    if (error) return faultsOf(error);
    await this.load();
    return [];
  }

  async showTo(slug: string, groups: string[]) {
    const { error } = await client.PUT("/api/shelf/{slug}/groups", { params: { path: { slug } }, body: { groups } });
    await this.load();
    if (error) this.faults = faultsOf(error);
  }

  async remove(slug: string) {
    const { error } = await client.DELETE("/api/shelf/{slug}", { params: { path: { slug } } });
    this.faults = error ? faultsOf(error) : [];
    await this.load();
  }

  async read(text: string): Promise<string> {
    let body: Schemas["ShelfFile"];
    try {
      body = JSON.parse(text) as Schemas["ShelfFile"];
    } catch {
      this.faults = [{ where: "file", what: "not JSON", allowed: "a shelf file" }];
      return "";
    }
    const { data, error } = await client.POST("/api/shelf/file", { body });
    this.faults = data ? [] : faultsOf(error);
    await this.load();
    return data ? `${data.new} new, ${data.changed} changed` : "";
  }
}

export const shelf = new Shelf();

/** A copy of a shelf item as a part of a build; the copy remembers what it was copied from. */
export function copyOf(item: ShelfItem): Omit<Part, "id"> {
  const part = structuredClone(item.part) as Part;
  if (item.by) return { ...part, name: part.name || item.name };
  return item.own
    ? { ...part, name: part.name || item.name, from_shelf: { item: item.id, version: item.version } }
    : part;
}

/** Where a part sits in one build; the rest is worth keeping on the shelf. */
const OF_ONE_BUILD = ["face", "direction", "outline", "feed", "machine", "from_shelf"];

/** Another part in the place of one: it stands where that stood and is fed as that was. */
export function exchange(draft: BuildDocument, id: string, other: Omit<Part, "id">): void {
  const at = draft.parts.findIndex((part) => part.id === id);
  const old = draft.parts[at] as Record<string, unknown> | undefined;
  if (!old) return;
  const stays = Object.fromEntries(
    OF_ONE_BUILD.filter((key) => key in old && key !== "from_shelf").map((key) => [key, old[key]]),
  );
  draft.parts[at] = { ...other, ...stays, id } as Part;
}

export function worthKeeping(document: BuildDocument, id: string): Record<string, unknown> | null {
  const part = document.parts.find((p) => p.id === id);
  if (!part) return null;
  return Object.fromEntries(Object.entries(structuredClone(part)).filter(([key]) => !OF_ONE_BUILD.includes(key)));
}
