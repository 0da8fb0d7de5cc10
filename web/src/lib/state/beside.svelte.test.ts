import { beforeEach, describe, expect, it, vi } from "vitest";
import type { BuildDocument } from "../document/build";

const store = new Map<string, string>();
const local = {
  getItem: (key: string) => store.get(key) ?? null,
  setItem: (key: string, value: string) => void store.set(key, value),
  removeItem: (key: string) => void store.delete(key),
};
vi.stubGlobal("localStorage", local);
const fresh = async () => {
  vi.resetModules();
  return await import("./beside.svelte");
};
const revision = (number: number) => ({ kind: "revision", build: "b1", number, name: "Heron" }) as const;

beforeEach(() => store.clear());

describe("options side by side", () => {
  it("start with the draft, up to five, and are there again at the next visit", async () => {
    const { beside } = await fresh();
    beside.open("b1", "Heron");
    expect(beside.entries).toEqual([{ kind: "draft", build: "b1", name: "Heron" }]);
    for (const number of [1, 2, 3, 4, 5]) beside.put(revision(number));
    expect(beside.full).toBe(true);
    expect(beside.entries).toHaveLength(5);
    beside.remove(0);
    const again = (await fresh()).beside;
    again.open("b1", "Heron");
    expect(again.entries).toEqual([1, 2, 3, 4].map(revision));
  });

  it("belong to their build", async () => {
    const { beside } = await fresh();
    beside.add("b1", { label: "trial", document: { name: "Heron" } as BuildDocument });
    expect(beside.entries.map((entry) => entry.kind)).toEqual(["draft", "copy"]);
    beside.open("b2", "Limpet");
    expect(beside.entries).toEqual([{ kind: "draft", build: "b2", name: "Limpet" }]);
    beside.open("b1", "Heron");
    expect(beside.entries).toHaveLength(2);
  });

  it("survive a store that is broken or full", async () => {
    store.set("beside-b1", "{not json");
    const { beside } = await fresh();
    beside.open("b1", "Heron");
    expect(beside.entries).toHaveLength(1);
    expect(store.has("beside-b1")).toBe(false);
    vi.stubGlobal("localStorage", {
      ...local,
      setItem: () => {
        throw new DOMException("full", "QuotaExceededError");
      },
    });
    beside.put(revision(1));
    expect(beside.entries).toHaveLength(2);
    vi.stubGlobal("localStorage", local);
  });
});
