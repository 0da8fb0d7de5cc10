import { describe, expect, it } from "vitest";
import type { Mark } from "$lib/state/standing";
import { found, markdownOf, namesIn, storyOf } from "./story";

const mark = (kind: Mark["kind"], about: string, word: string, at: string): Mark => ({
  id: 1,
  key: `${kind}-${about}`,
  about,
  kind,
  word,
  minutes: null,
  at,
  who: "mara",
});
const revisions = [{ number: 1, why: "first build", created: "2026-01-01T10:00:00Z", author: "tom" }] as never;
const runs = [
  { kind: "log", name: "Both log", note: "locked", created: "2026-01-03T10:00:00Z" },
  { kind: "claim", name: "Leaflet", note: "", created: "2026-01-02T10:00:00Z" },
] as never;
const marks = [
  mark("incident", "pump", "died after two years", "2028-01-01T10:00:00Z"),
  mark("remark", "build", "hums at night", "2026-02-01T10:00:00Z"),
  mark("done", "pump", "", "2026-01-05T10:00:00Z"),
  mark("cared", "mesh/filter", "Wash the filter", "2026-03-01T10:00:00Z"),
];
const nameOf = (id: string) => ({ pump: "Pump", build: "", "mesh/filter": "Wash the filter" })[id] ?? id;
const story = storyOf(revisions, runs, marks, nameOf);

describe("the story of a build", () => {
  it("tells everything in one line of time, the newest first, ticks left out", () => {
    expect(story.map((one) => [one.what, one.text, one.grave])).toEqual([
      ["incident", "Pump: died after two years", true],
      ["looked after", "Wash the filter", false],
      ["remark", "hums at night", false],
      ["run", "Both log: locked", false],
      ["claim", "Leaflet", false],
      ["revision 1", "first build", false],
    ]);
  });

  it("names parts by their names, steps by their keys, and the whole build by nothing", () => {
    const parts = [
      { id: "pump", name: "Loop pump" },
      { id: "gate-keeper", name: "" },
    ];
    const name = namesIn({ parts, loops: [{ id: "loop-b", name: "Loop B" }] });
    expect(name("loop-b")).toBe("Loop B");
    expect(["pump", "build", "gate-memory-found", "loop-a/clean", "due-hinge_left", "gate-keeper"].map(name)).toEqual([
      "Loop pump",
      "",
      "memory found",
      "loop a clean",
      "hinge left",
      "keeper",
    ]);
  });

  it("is found by every word, in any order", () => {
    expect(found(story, "years PUMP").map((one) => one.what)).toEqual(["incident"]);
    expect(found(story, "pump gone")).toEqual([]);
    expect(found(story, " ")).toHaveLength(6);
    expect(found(story, "tom")).toHaveLength(1);
  });

  it("is one page of Markdown, the oldest first, with nothing that would be read as Markdown", () => {
    const odd = storyOf([], [], [mark("remark", "pump", "*loud* at\n5 V", "2026-02-01T10:00:00Z")], nameOf);
    expect(markdownOf("Heron_1", odd, () => "1 Feb 2026").split("\n")).toEqual([
      "# Heron\\_1",
      "",
      "- 1 Feb 2026, **remark**: Pump: \\*loud\\* at 5 V (mara)",
      "",
    ]);
    expect(markdownOf("H", story, () => "d").indexOf("first build")).toBeLessThan(
      markdownOf("H", story, () => "d").indexOf("died"),
    );
  });
});
