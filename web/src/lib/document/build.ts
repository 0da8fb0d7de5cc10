/** The build document as the browser edits it: plain objects in the API's own types, addressed by id, never by position. */
import type { components } from "../api/schema";

type Schemas = components["schemas"];
export type FigureDetail = Schemas["FigureDetail"];
export type Origin = NonNullable<FigureDetail["from"]>;
export type Figure = Schemas["Figure"];
export type Place = Schemas["Place"];
export type Element = Schemas["Loop"]["elements"][number];
export type Loop = Schemas["Loop"];
export type AirPath = Schemas["AirPath"];
export type Zone = Schemas["Zone"];
export type Hop = Schemas["Hop"];
export type Route = Schemas["Route"];
export type Command = Schemas["Command"];
export type Burst = Schemas["Burst"];
export type Workload = Schemas["Workload"];
export type Room = Schemas["Room"];
/** Lists that are always there once a document is open. */
type Lists =
  | "parts"
  | "loops"
  | "air_paths"
  | "routes"
  | "workloads"
  | "zones"
  | "recirculations"
  | "feeds"
  | "slots"
  | "contacts"
  | "leads"
  | "insulators"
  | "holdings"
  | "near_heat"
  | "assembly"
  | "steps"
  | "dues";
export type BuildDocument = Schemas["Build"] & Required<Pick<Schemas["Build"], Lists>>;
export type Part = BuildDocument["parts"][number];
export type Slot = Schemas["Slot"];
export type StackItem = NonNullable<Slot["stack"]>[number];
export type PlateContact = Schemas["PlateContact"];
export type Joint = Schemas["Joint"];
export type Lead = Schemas["Lead"];
export type LeadEnd = Schemas["LeadEnd"];
export type Holding = Schemas["Holding"];
export type NearHeat = Schemas["NearHeat"];
export type Recirculation = Schemas["Recirculation"];
export type Mouths = NonNullable<Recirculation["mouths"]>;
export type Face = NonNullable<Part["face"]>;
export type PartKind = Part["kind"];

/** The parts of a kind. */
export const partsOf = <K extends PartKind>(document: BuildDocument, kind: K) =>
  document.parts.filter((part): part is Extract<Part, { kind: K }> => part.kind === kind);

const LISTS: Lists[] = [
  "parts",
  "loops",
  "air_paths",
  "routes",
  "workloads",
  "zones",
  "recirculations",
  "feeds",
  "slots",
  "contacts",
  "leads",
  "insulators",
  "holdings",
  "near_heat",
  "assembly",
  "steps",
  "dues",
];

/** A document as it is stored, its lists all there. */
export function opened<Stored extends Pick<Schemas["Build"], "format" | "version" | "name">>(
  stored: Stored,
): BuildDocument {
  const lists = Object.fromEntries(LISTS.map((list) => [list, []]));
  return { ...lists, ...stored } as unknown as BuildDocument;
}

/** A document as it is stored again: an empty list that was not there before is left out. */
export function asStored(document: BuildDocument, before: readonly string[]): BuildDocument {
  const left = (list: Lists) => !document[list].length && !before.includes(list);
  const gone: readonly string[] = LISTS.filter(left);
  return Object.fromEntries(Object.entries(document).filter(([key]) => !gone.includes(key))) as BuildDocument;
}

export const valueOf = (figure: Figure | null | undefined): number | undefined =>
  typeof figure === "object" ? figure?.value : figure;

export const originOf = (figure: Figure | null | undefined): Origin | undefined =>
  figure === null || figure === undefined
    ? "class"
    : typeof figure === "object"
      ? (figure.from ?? undefined)
      : undefined;

/** Whether nobody stated a figure: it is a class's, an estimate or a rule of thumb. */
export const isGuess = (figure: Figure | null | undefined): boolean =>
  ["class", "estimate", "rule_of_thumb"].includes(originOf(figure) ?? "");

/** A figure with another value: what a person types is their own statement, so an old guess mark goes. */
export function withValue(figure: Figure | null | undefined, value: number): Figure {
  if (typeof figure !== "object" || figure === null) return value;
  if (isGuess(figure)) return value;
  return { ...figure, value };
}

/** Places of every source and supply, or of one part. */
export const placesOf = (document: BuildDocument, part?: string): Place[] =>
  document.parts.flatMap((own) => ("places" in own && (part === undefined || own.id === part) ? own.places : []));

export const placeOf = (document: BuildDocument, id: string) => placesOf(document).find((place) => place.id === id);

export type Owner = Part | Place | Room | Zone | Loop | Workload | AirPath | Recirculation | Schemas["Feed"];

/** The object that an id belongs to. */
export function ownerOf(document: BuildDocument, id: string): Owner | undefined {
  const { rooms, zones, loops, workloads, parts, air_paths, recirculations, feeds } = document;
  const listed: Owner[] = [rooms, zones, loops, workloads, parts, air_paths, recirculations, feeds].flat();
  return listed.find((item) => item.id === id) ?? placeOf(document, id);
}

/** Make a draft another document: nothing of the old one stays. */
export function replaceBy(draft: BuildDocument, document: BuildDocument): void {
  for (const key of Object.keys(draft)) if (!(key in document)) delete (draft as Record<string, unknown>)[key];
  Object.assign(draft, structuredClone(document));
}

/** Move an element of a series by one; the ends do not wrap. */
export function moved(elements: Element[], index: number, by: -1 | 1): Element[] {
  const target = index + by;
  if (target < 0 || target >= elements.length) return elements;
  const next = [...elements];
  [next[index], next[target]] = [next[target]!, next[index]!];
  return next;
}

/** Cells of a pasted column or block, numbers with comma or point. */
export function pastedNumbers(text: string): number[] {
  return text
    .split(/[\r\n\t;]+/)
    .map((cell) => cell.trim().replace(/\s*W$/i, "").replace(",", "."))
    .filter((cell) => /^-?\d+(\.\d+)?$/.test(cell))
    .map(Number);
}
