import { describe, expect, it } from "vitest";
import type { BuildDocument } from "./build";
import { emptyBuild } from "./empty";
import { mergeDocuments, pathInWords } from "./merge";

const base = {
  name: "Heron",
  brief: { ceiling_dba: 32 },
  rooms: [{ id: "room", air_c: { value: 25, from: "stated" } }],
  parts: [
    { id: "pump", name: "Pump" },
    { id: "fan", name: "Fan", points: [[0, 1]] },
    { id: "feet", name: "Feet" },
  ],
  workloads: [{ id: "both", watts: { processor: 95, graphics: 200 }, movers: { fan: { duty: 0.6 } } }],
};
type Draft = typeof base;
const made = (change: (draft: Draft) => void) => {
  const draft = structuredClone(base);
  change(draft);
  return draft;
};
const merged = (mine: (draft: Draft) => void, theirs: (draft: Draft) => void) =>
  mergeDocuments(base, made(mine), made(theirs));

describe("one document of two", () => {
  it("has what each changed, also inside one part and one table", () => {
    const { document, clashes } = merged(
      (d) => {
        d.parts[0]!.name = "Strong pump";
        d.workloads[0]!.watts.processor = 120;
      },
      (d) => {
        d.name = "Heron II";
        d.workloads[0]!.watts.graphics = 250;
      },
    );
    expect(clashes).toEqual([]);
    expect(document.name).toBe("Heron II");
    expect(document.parts[0]!.name).toBe("Strong pump");
    expect(document.workloads[0]!.watts).toEqual({ processor: 120, graphics: 250 });
  });

  it("keeps mine where both changed one figure, and names it", () => {
    const { document, clashes } = merged(
      (d) => void (d.workloads[0]!.watts.processor = 120),
      (d) => {
        d.workloads[0]!.watts.processor = 130;
        d.brief.ceiling_dba = 30;
      },
    );
    expect(document.workloads[0]!.watts.processor).toBe(120);
    expect(document.brief.ceiling_dba).toBe(30);
    expect(clashes).toEqual(["workloads/both/watts/processor"]);
  });

  it("does not ask where both changed the same to the same", () => {
    const change = (d: Draft) => void (d.name = "Heron II");
    expect(merged(change, change)).toEqual({ document: made(change), clashes: [] });
  });

  it("takes a figure as one: its value is never put to the origin of another", () => {
    const { document, clashes } = merged(
      (d) => void (d.rooms[0]!.air_c.value = 28),
      (d) => void (d.rooms[0]!.air_c.from = "measured"),
    );
    expect(document.rooms[0]!.air_c).toEqual({ value: 28, from: "stated" });
    expect(clashes).toEqual(["rooms/room/air_c"]);
  });

  it("has what each added where they put it, and misses what each took out", () => {
    const { document, clashes } = merged(
      (d) => {
        d.parts.splice(1, 0, { id: "plate", name: "Plate" });
        d.parts.push({ id: "grille", name: "Grille" });
      },
      (d) => {
        d.parts = d.parts.filter((part) => part.id !== "feet");
        d.parts.push({ id: "filter", name: "Filter" });
      },
    );
    expect(document.parts.map((part) => part.id)).toEqual(["pump", "plate", "fan", "grille", "filter"]);
    expect(clashes).toEqual([]);
  });

  it.each([
    ["mine", ["feet", "pump", "fan"], ["pump", "fan", "feet"], ["feet", "pump", "fan"]],
    ["theirs", ["pump", "fan", "feet"], ["fan", "pump", "feet"], ["fan", "pump", "feet"]],
    ["theirs where both did", ["feet", "pump", "fan"], ["fan", "pump", "feet"], ["fan", "pump", "feet"]],
  ])("keeps the order of whoever moved something: %s", (_, mine, theirs, found) => {
    const moved = (ids: string[]) => (d: Draft) => void d.parts.sort((a, b) => ids.indexOf(a.id) - ids.indexOf(b.id));
    expect(merged(moved(mine), moved(theirs)).document.parts.map((part) => part.id)).toEqual(found);
  });

  it("keeps my order where they only added something", () => {
    const { document } = merged(
      (d) => void d.parts.reverse(),
      (d) => void d.parts.push({ id: "filter", name: "Filter" }),
    );
    expect(document.parts.map((part) => part.id)).toEqual(["feet", "filter", "fan", "pump"]);
  });

  it("names a part that one changed and the other took out; what I did stands", () => {
    const out = (d: Draft) => void (d.parts = d.parts.filter((part) => part.id !== "fan"));
    const changed = (d: Draft) => void (d.parts.find((part) => part.id === "fan")!.name = "Big fan");
    const kept = merged(changed, out);
    expect(kept.clashes).toEqual(["parts/fan"]);
    expect(kept.document.parts.map((part) => part.name)).toContain("Big fan");
    const gone = merged(out, changed);
    expect(gone.clashes).toEqual(["parts/fan"]);
    expect(gone.document.parts.map((part) => part.id)).toEqual(["pump", "feet"]);
  });

  it("does not mix lists of figures", () => {
    const { document, clashes } = merged(
      (d) =>
        void (d.parts[1]!.points = [
          [0, 1],
          [1, 0],
        ]),
      (d) => void (d.parts[1]!.points = [[0, 2]]),
    );
    expect(document.parts[1]!.points).toEqual([
      [0, 1],
      [1, 0],
    ]);
    expect(clashes).toEqual(["parts/fan/points"]);
  });
});

it.each([
  ["workloads/both/watts/processor", "Both · watts · Processor"],
  ["parts/fan/points", "Fan · points"],
  ["brief/ceiling_dba", "ceiling dba"],
  ["name", "name"],
])("says of %s that it is %s", (path, words) => {
  const parts = [
    { id: "fan", kind: "fan", name: "Fan" },
    { id: "processor", kind: "source", name: "Processor" },
  ];
  const draft = { ...emptyBuild("Heron", 25), parts, workloads: [{ id: "both", name: "Both" }] };
  expect(pathInWords(draft as BuildDocument, path)).toBe(words);
});
