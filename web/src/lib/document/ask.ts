/** What can be solved for in a build: its figures and duties, and the questions that people ask most. */
import { unitOf, words } from "../units/format";
import { figureOf, roomAddress, wattsAddress } from "./addresses";
import { placesOf, valueOf, type BuildDocument } from "./build";

export type Goal = "margin" | "temperature" | "flow" | "level" | "watts";
export type Question = { address: string; goal: Goal; of: string; wanted: number };
export type Choice = { value: string; label: string };

const WHOLE = ["sections", "count", "thickness_mm", "bends"];
const FIGURE = /_(mm|mm2|cm2|m|um|l|ml|mm2k_w|k_w|w_k|w_mk|dba|kpa|share)$|^(factor|loss|dust|emissivity)$/;

type Owner = { id: string; name?: string; class?: string | null; kind?: string };

/** Everything that has figures: parts and their places, loops, zones, air that is drawn in again. */
function ownersOf(document: BuildDocument): Owner[] {
  const { parts, loops, zones, recirculations } = document;
  return [...parts, ...placesOf(document), ...loops, ...zones, ...recirculations];
}

/** Figures that are stated or that a class gives, and whole numbers that shape a part. */
function figuresOf(owner: Owner, byClass: string[]): Choice[] {
  const given = Object.keys(owner).filter(
    (key) =>
      (WHOLE.includes(key) && owner.kind !== "fan") ||
      (FIGURE.test(key) && valueOf(figureOf(owner, key)) !== undefined),
  );
  return [...new Set([...given, ...byClass.filter((key) => FIGURE.test(key))])]
    .filter((key) => !(key === "thickness_mm" && owner.kind === "fan") && key !== "section_mm")
    .map((key) => ({ value: `${owner.id}/${key}`, label: `${owner.name || owner.id}: ${words(key)}` }));
}

/** Fans and pumps that a workload tells a duty. */
const toldDuties = (document: BuildDocument, workload: string) =>
  Object.entries(document.workloads.find((w) => w.id === workload)?.movers ?? {})
    .filter(([, command]) => command.duty !== undefined)
    .flatMap(([id]) => document.parts.filter((part) => part.id === id));

/** What may be the unknown: duties, the room, watts, figures; ``classFigures`` are those that a class gives. */
export function unknownsOf(
  document: BuildDocument,
  workload: string,
  classFigures: (id: string | null | undefined) => string[],
): Choice[] {
  const told = toldDuties(document, workload);
  const nameOf = (id: string) => document.parts.find((part) => part.id === id)?.name || id;
  const watts = Object.keys(document.workloads.find((w) => w.id === workload)?.watts ?? {});
  return [
    ...(told.some((part) => part.kind === "fan") ? [{ value: "movers/fans", label: "All fans: duty" }] : []),
    ...told.map((part) => ({ value: `movers/${part.id}`, label: `${part.name || part.id}: duty` })),
    { value: roomAddress(document), label: `${document.rooms[0]?.name || "Room"}: air` },
    ...watts.map((id) => ({ value: wattsAddress(workload, id), label: `${nameOf(id)}: watts` })),
    ...ownersOf(document).flatMap((owner) => figuresOf(owner, classFigures(owner.class))),
  ];
}

/** The questions that are asked most, about the tightest part and the ceiling of the workload in view. */
export function readyQuestions(
  document: BuildDocument,
  workload: string,
  tightest: { address: string; name: string } | undefined,
): (Question & { says: string })[] {
  const told = document.workloads.find((w) => w.id === workload);
  const fans = toldDuties(document, workload).some((part) => part.kind === "fan");
  const found: (Question & { says: string })[] = [];
  if (fans && told && told.sound_ceiling_dba !== undefined && told.sound_ceiling_dba !== null)
    found.push({
      says: `fan speed for ${told.sound_ceiling_dba} ${unitOf("level_dba")}`,
      ...{ address: "movers/fans", goal: "level", of: "", wanted: told.sound_ceiling_dba },
    });
  if (!tightest) return found;
  const wanted = document.brief?.margin_wanted_k ?? 3;
  const keeps = `${tightest.name} keeps ${wanted} K`;
  const ask = (says: string, address: string) =>
    found.push({ says, address, goal: "margin", of: tightest.address, wanted });
  ask(`hottest room in which ${keeps}`, roomAddress(document));
  if (fans) ask(`fan speed at which ${keeps}`, "movers/fans");
  const watts = Object.entries(told?.watts ?? {}).map(([id, figure]) => [id, valueOf(figure) ?? 0] as const);
  const [most] = watts.sort((a, b) => b[1] - a[1]);
  if (most) {
    const name = document.parts.find((part) => part.id === most[0])?.name || most[0];
    ask(`watts of ${name} with which ${keeps}`, wattsAddress(workload, most[0]));
  }
  const radiator = document.parts.find((part) => part.kind === "radiator" && !part.points);
  const sink = document.parts.find((part) => part.kind === "sink");
  if (radiator) ask(`sections of ${radiator.name || radiator.id} with which ${keeps}`, `${radiator.id}/sections`);
  else if (sink) ask(`fin height of ${sink.name || sink.id} with which ${keeps}`, `${sink.id}/fin_height_mm`);
  return found;
}
