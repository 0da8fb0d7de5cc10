/** A first build in six steps on the stages themselves: what to do there, and when that is done. */
import { isGuess, valueOf, type BuildDocument, type Figure } from "./document/build";

export type Known = { document: BuildDocument; workload: string; revision: number | null };
export type Step = {
  stage: string;
  title: string;
  text: string;
  /** whether the build shows that it is done; else the person says so */
  done?: (known: Known) => boolean;
};

const isMine = (figure: Figure | null | undefined) => valueOf(figure) !== undefined && !isGuess(figure);

export const GUIDE: Step[] = [
  {
    stage: "brief",
    title: "Say what it is for",
    text: "A line of purpose, the coolest and the hottest room, and how loud it may be.",
    done: ({ document }) => !!document.brief?.purpose?.trim(),
  },
  {
    stage: "heat",
    title: "Type your own watts",
    text: "In the worst workload, over each guess: what a part draws for long, not for a moment.",
    done: ({ document, workload }) =>
      Object.values(document.workloads.find((one) => one.id === workload)?.watts ?? {}).some(isMine),
  },
  {
    stage: "route",
    title: "Replace the largest guess",
    text: "Open the tallest block of the tightest part: its paste, plate, cooler or pad as you have it.",
  },
  {
    stage: "air",
    title: "Measure the openings",
    text: "Open each opening and say how it is cut, and which way each fan blows; a sealed housing needs its size alone.",
  },
  {
    stage: "forecast",
    title: "Read what is tight, and why",
    text: "A row that is not green says what holds it back. Try the first of the next changes; nothing is taken before you say so.",
  },
  {
    stage: "logbook",
    title: "Keep a revision",
    text: "One line of why. A run is judged against it, and you can always come back to it.",
    done: ({ revision }) => revision !== null,
  },
];

const keyOf = (buildId: string) => `guide:${buildId}`;

/** Steps that somebody ticked of the guide of a build; null where it is not guided. */
export function guideOf(buildId: string): number[] | null {
  const stored = localStorage.getItem(keyOf(buildId));
  return stored === null ? null : stored.split(",").filter(Boolean).map(Number);
}

export function storeGuide(buildId: string, ticked: number[] | null): void {
  if (ticked === null) localStorage.removeItem(keyOf(buildId));
  else localStorage.setItem(keyOf(buildId), ticked.join(","));
}

/** Which steps are done: ticked, or to be seen in the build. */
export const doneOf = (known: Known, ticked: number[]): boolean[] =>
  GUIDE.map((step, i) => ticked.includes(i) || !!step.done?.(known));
