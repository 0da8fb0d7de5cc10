/** Cautions stand where the work can hurt somebody, and only there; they defer to local codes and licensed practice. */
import type { Mark } from "../state/standing";
import { day } from "../units/format";
import type { BuildDocument } from "./build";

export type Caution = {
  id: string;
  at: "route" | "bench";
  text: string;
  applies: (document: BuildDocument) => boolean;
};

const has =
  (...kinds: string[]) =>
  (document: BuildDocument) =>
    document.parts.some((part) => kinds.includes(part.kind));
const looped = (document: BuildDocument) => document.loops.length > 0;
const glycol = (document: BuildDocument) => document.loops.some((loop) => loop.coolant?.fluid !== "water");
const ofClass = (start: string) => (document: BuildDocument) =>
  document.parts.some((part) => "class" in part && String(part.class ?? "").startsWith(start));

export const CAUTIONS: Caution[] = [
  {
    id: "fill",
    at: "route",
    text: "Fill and leak-test with the electronics off and the mains plug out; only the pump is powered.",
    applies: looped,
  },
  {
    id: "pump",
    at: "route",
    text: "Never run the pump dry or against a closed end: look at couplings and reservoir first.",
    applies: looped,
  },
  {
    id: "coolant",
    at: "route",
    text: "Glycol and biocides are toxic: away from children, animals and drains; local rules govern disposal.",
    applies: glycol,
  },
  {
    id: "liquid-metal",
    at: "route",
    text: "Liquid metal conducts and attacks aluminium: keep it off boards, contacts and aluminium sinks.",
    applies: ofClass("liquid_metal"),
  },
  {
    id: "wood",
    at: "route",
    text: "Wood, cloth and card near heat are a fire load: keep them from supplies and hot sinks; local fire rules decide.",
    applies: (document) =>
      (document.housing?.material ?? "").includes("wood") ||
      document.parts.some((part) => "material" in part && part.material === "wood"),
  },
  {
    id: "hot",
    at: "bench",
    text: "Surfaces get hot under load: let them cool before you touch pads, sinks or the supply.",
    applies: () => true,
  },
  {
    id: "mains",
    at: "bench",
    text: "Mains voltage inside supplies: capacitors stay charged with the plug out. Opening one is for qualified people; the local electrical code and a licensed electrician decide.",
    applies: has("supply"),
  },
  {
    id: "moving-coolant",
    at: "bench",
    text: "Before loading, check that the coolant is moving: a dry or dead-ended pump cooks the machine.",
    applies: looped,
  },
  {
    id: "blades",
    at: "bench",
    text: "Keep fingers, leads and sleeves out of running fans; a fast or printed impeller can burst: eye protection.",
    applies: has("fan"),
  },
];

/** Those that apply to a build where somebody works on it. */
export const cautionsFor = (document: BuildDocument, at?: Caution["at"]): Caution[] =>
  CAUTIONS.filter((caution) => (!at || caution.at === at) && caution.applies(document));

export const isRead = (document: BuildDocument, id: string): boolean => document.cautions_read?.includes(id) ?? false;

/** Who read a caution and when, by the mark on the sheet, else that somebody did at its stage; null where nobody has. */
export function readWords(document: BuildDocument | null, id: string, mark?: Pick<Mark, "who" | "at">): string | null {
  if (mark) return ["read", mark.who, day(mark.at)].filter(Boolean).join(", ");
  return document && isRead(document, id) ? "read" : null;
}
