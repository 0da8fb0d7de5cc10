/** One time line of a build: revisions, runs, claims, remarks, incidents, gates that failed, what was looked after. */
import type { Schemas } from "$lib/api/client";
import type { Mark } from "$lib/state/standing";

export type Entry = { at: number; what: string; text: string; who: string; grave: boolean; picture?: string };

type Card = Schemas["RunCard"];
type Revision = Schemas["RevisionOut"];

const MARKED: Partial<Record<Mark["kind"], string>> = {
  remark: "remark",
  incident: "incident",
  cared: "looked after",
  failed: "did not work",
  tried: "tried",
};

/** what is told of the whole build */
export const WHOLE = "build";

type Named = { id: string; name?: string };

/** What a mark is about, in words: a part or loop by its name, a step by its key; nothing of the whole build. */
export const namesIn =
  (document: { parts: Named[]; loops: Named[] } | null) =>
  (about: string): string =>
    about === WHOLE
      ? ""
      : [...(document?.parts ?? []), ...(document?.loops ?? [])].find((one) => one.id === about)?.name ||
        about.replace(/^(gate|suspect|due)-/, "").replace(/[-_/]/g, " ");

/** The newest first; words of marks name the part or step that they are about. */
export function storyOf(
  revisions: Revision[],
  runs: Card[],
  marks: Mark[],
  nameOf: (about: string) => string,
  pictures: Schemas["StepPictureOut"][] = [],
): Entry[] {
  const entries: Entry[] = [
    ...revisions.map((one) => ({
      at: Date.parse(one.created),
      what: `revision ${one.number}`,
      text: one.why,
      who: one.author ?? "",
      grave: false,
    })),
    ...runs.map((one) => ({
      at: Date.parse(one.created),
      what: one.kind === "claim" ? "claim" : "run",
      text: [one.name, one.note].filter(Boolean).join(": "),
      who: "",
      grave: false,
    })),
    ...marks
      .filter((mark) => MARKED[mark.kind])
      .map((mark) => ({
        at: Date.parse(mark.at),
        what: MARKED[mark.kind]!,
        text: [nameOf(mark.about), mark.word].filter((word, i, all) => word && all.indexOf(word) === i).join(": "),
        who: mark.who,
        grave: mark.kind === "incident" || mark.kind === "failed",
      })),
    ...pictures.map((one) => ({
      at: Date.parse(one.at),
      what: "picture",
      text: nameOf(one.about),
      who: one.who,
      grave: false,
      picture: one.sha256,
    })),
  ];
  return entries.sort((a, b) => b.at - a.at);
}

/** Entries that say every word of a search, in any order. */
export function found(entries: Entry[], search: string): Entry[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  return entries.filter((entry) => {
    const text = `${entry.what} ${entry.text} ${entry.who}`.toLowerCase();
    return words.every((word) => text.includes(word));
  });
}

/** The story as one page of Markdown, the oldest first. */
export function markdownOf(name: string, entries: Entry[], day: (at: Date) => string): string {
  const escaped = (text: string) => text.replace(/([\\`*_[\]<>#|])/g, "\\$1").replace(/\s*\n\s*/g, " ");
  const lines = [...entries]
    .reverse()
    .map(
      (entry) =>
        `- ${day(new Date(entry.at))}, **${entry.what}**: ${escaped(entry.text)}${entry.who ? ` (${escaped(entry.who)})` : ""}`,
    );
  return [`# ${escaped(name)}`, "", ...lines, ""].join("\n");
}
