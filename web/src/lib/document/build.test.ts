import { describe, expect, it } from "vitest";
import { fieldOf } from "./addresses";
import { asStored, moved, opened, ownerOf, pastedNumbers, valueOf, withValue } from "./build";

const document = opened({
  format: "krill-build",
  version: 1,
  name: "B",
  rooms: [{ id: "room", air_c: 24 }],
  parts: [
    { id: "cpu", kind: "source", places: [{ id: "cpu-core", name: "Core" }] },
    { id: "pump", kind: "pump" },
  ],
  loops: [],
  air_paths: [],
  routes: [],
  workloads: [{ id: "both", watts: { cpu: 125 } }],
});

describe("the document in the browser", () => {
  it("has all its lists, and is stored without those that nobody filled", () => {
    const raw = { format: "krill-build" as const, version: 1 as const, name: "B", rooms: [], loops: [] };
    const draft = opened(raw);
    expect([draft.parts, draft.feeds, draft.zones]).toEqual([[], [], []]);
    expect(asStored(draft, Object.keys(raw))).toEqual(raw);
    draft.feeds.push({ id: "header", kind: "header" });
    expect(asStored(draft, Object.keys(raw))).toEqual({ ...raw, feeds: [{ id: "header", kind: "header" }] });
  });
  it("is addressed by id", () => {
    expect(fieldOf(ownerOf(document, "cpu-core"), "name")).toBe("Core");
    expect(fieldOf(ownerOf(document, "room"), "air_c")).toBe(24);
    expect(ownerOf(document, "nothing")).toBeUndefined();
  });
  it("drops a guess mark when a person types a figure, and keeps a measured one", () => {
    expect(withValue({ value: 5, plus_minus: "20%", from: "estimate" }, 6)).toBe(6);
    expect(withValue({ value: 5, plus_minus: 0.2, from: "measured" }, 6)).toEqual({
      value: 6,
      plus_minus: 0.2,
      from: "measured",
    });
    expect(withValue(5, 6)).toBe(6);
    expect(valueOf({ value: 3 })).toBe(3);
  });
  it("moves beads without wrapping and reads pasted columns", () => {
    expect(moved(["a", "b", "c"], 0, 1)).toEqual(["b", "a", "c"]);
    expect(moved(["a", "b"], 1, 1)).toEqual(["a", "b"]);
    expect(pastedNumbers("125 W\n12,5\nwords\n6")).toEqual([125, 12.5, 6]);
  });
});
