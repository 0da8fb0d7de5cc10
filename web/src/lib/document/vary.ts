/** What of a build may vary in a study, and what is demanded of it: plain objects in the form that the server asks for. */
import { leaves } from "./elements";
import { unitOf, words } from "../units/format";
import { figureOf, roomAddress, wattsAddress } from "./addresses";
import { valueOf, type BuildDocument, type Figure, type Part } from "./build";

export type Option = { value: unknown; label?: string; price?: number };
export type Axis = { address: string; name: string; options: Option[] };
export type Demands = {
  margins: { workload: string; place?: string | null; at_least_k: number }[];
  sounds: { workload: string; at_most_dba: number }[];
  height_mm?: number | null;
  mass_g?: number | null;
  price?: number | null;
};
export type Criterion = "margin" | "sound" | "height" | "mass" | "price";

const nameOf = (part: { id: string; name?: string | undefined }) => part.name || part.id;

/** Numbers from low to high in equal steps, rounded to what a person would type. */
export function steps(low: number, high: number, count: number): number[] {
  if (count < 2 || high <= low) return [low];
  const size = (high - low) / (count - 1);
  return Array.from({ length: count }, (_, i) => Number((low + i * size).toPrecision(5)));
}

const percent = (duty: number) => `${Math.round(100 * duty)} %`;

export const duties = (low: number, high: number, count: number): Option[] =>
  steps(low, high, count).map((value) => ({ value: Number(value.toFixed(3)), label: percent(value) }));

export const numbers = (values: number[], unit: string): Option[] =>
  values.map((value) => ({ value, label: `${value}${unit ? ` ${unit}` : ""}` }));

type PartClass = { id: string; kind: string; name: string };

/** Fans of one size in several depths and strengths: same width, so that they fit the same face. */
function likeFans(part: Part, classes: PartClass[]): Option[] {
  const size = /fan_(\d+)x/.exec(String(part.class ?? ""))?.[1];
  return classes
    .filter((c) => c.kind === "fan" && size && c.id.startsWith(`fan_${size}x`) && !c.id.endsWith("very_fast"))
    .map((c) => ({ value: c.id, label: c.name }));
}

type Radiator = Extract<Part, { kind: "radiator" }>;
const SECTIONS = [1, 2, 3, 4, 5, 6];
const THICKNESS = [28, 38, 45, 60];

function ofRadiator(part: Radiator): Axis[] {
  if (part.points) return [];
  const unit = part.section_mm;
  return [
    {
      address: `${part.id}/sections`,
      name: `${nameOf(part)}: sections, a fan on each`,
      options: SECTIONS.map((value) => ({ value, label: `${value} × ${unit}` })),
    },
    { address: `${part.id}/thickness_mm`, name: `${nameOf(part)}: thickness`, options: numbers(THICKNESS, "mm") },
  ];
}

function grown(part: Part, field: string, word: string, shares: number[]): Axis[] {
  const now = valueOf(figureOf(part, field));
  if (now === undefined) return [];
  const values = [...new Set(shares.map((share) => Number((now * share).toPrecision(2))))];
  return [{ address: `${part.id}/${field}`, name: `${nameOf(part)}: ${word}`, options: numbers(values, "mm") }];
}

function ofSink(part: Part): Axis[] {
  return [
    ...grown(part, "fin_height_mm", "fin height", [0.6, 0.8, 1, 1.25, 1.5, 2]),
    ...grown(part, "fin_pitch_mm", "fin pitch", [0.6, 0.8, 1, 1.25, 1.5]),
    ...grown(part, "length_mm", "length", [0.8, 1, 1.2, 1.5]),
    ...grown(part, "base_mm", "base", [0.75, 1, 1.5]),
  ];
}

const PASTES: Record<string, string[]> = {
  lid: ["paste_ordinary_lid", "paste_good_lid"],
  chip: ["paste_ordinary_chip", "paste_good_chip"],
};

function ofClass(part: Part, classes: PartClass[]): Axis[] {
  const now = String(part.class ?? "");
  const ids =
    part.kind === "plate"
      ? classes.filter((c) => c.kind === "plate" && c.id.split("_")[1] === now.split("_")[1]).map((c) => c.id)
      : now.startsWith("paste")
        ? (PASTES[now.endsWith("lid") ? "lid" : "chip"] ?? [])
        : [];
  const known = ids.filter((id) => classes.some((c) => c.id === id));
  if (known.length < 2) return [];
  const label = (id: string) => classes.find((c) => c.id === id)!.name;
  return [
    {
      address: `${part.id}/class`,
      name: part.kind === "plate" ? nameOf(part) : `${nameOf(part)} (${part.id})`,
      options: known.map((id) => ({ value: id, label: label(id) })),
    },
  ];
}

/** Every axis that a build offers, the ones that most decide first. */
export function axesOf(document: BuildDocument, workload: string, classes: PartClass[]): Axis[] {
  const found: Axis[] = [];
  const fans = document.parts.filter((part) => part.kind === "fan");
  const pumps = document.parts.filter((part) => part.kind === "pump");
  for (const part of document.parts) if (part.kind === "radiator") found.push(...ofRadiator(part));
  for (const part of document.parts) if (part.kind === "sink") found.push(...ofSink(part));
  const like = fans[0] ? likeFans(fans[0], classes) : [];
  if (like.length > 1) found.push({ address: "fans/class", name: "All fans: which", options: like });
  if (fans.length) found.push({ address: "movers/fans", name: "All fans: duty", options: duties(0.3, 1, 15) });
  for (const path of document.air_paths) {
    const own = leaves(path.elements).filter((id) => fans.some((fan) => fan.id === id));
    if (own.length && own.length < fans.length)
      found.push({
        address: `movers/${path.id}`,
        name: `${path.name || path.id}: duty`,
        options: duties(0.3, 1, 8),
      });
  }
  if (pumps.length) {
    found.push({ address: "movers/pumps", name: "Pump: duty", options: duties(0.4, 1, 3) });
    found.push({
      address: "pumps/class",
      name: "Pump: which",
      options: classes.filter((c) => c.kind === "pump").map((c) => ({ value: c.id, label: c.name })),
    });
  }
  for (const part of document.parts)
    if (part.kind === "heat_pipe")
      found.push({
        address: `${part.id}/count`,
        name: `${nameOf(part)}: how many`,
        options: numbers([1, 2, 3, 4, 5, 6], ""),
      });
  for (const part of document.parts) found.push(...ofClass(part, classes));
  found.push({
    address: "housing/gravity",
    name: "How the housing stands",
    options: [
      { value: [0, 0, -1], label: "as it is drawn" },
      { value: [0, 0, 1], label: "upside down" },
      { value: [-1, 0, 0], label: "on its left side" },
      { value: [0, -1, 0], label: "on its front" },
    ],
  });
  const told = document.workloads.find((w) => w.id === workload);
  for (const [source, figure] of Object.entries(told?.watts ?? {})) {
    const now = valueOf(figure) ?? 0;
    if (now >= 20)
      found.push({
        address: wattsAddress(workload, source),
        name: `${nameOf(document.parts.find((p) => p.id === source) ?? { id: source })}: power limit`,
        options: numbers(
          [0.7, 0.8, 0.9, 1].map((share) => Math.round(now * share)),
          "W",
        ),
      });
  }
  return found;
}

/** The axes that a study starts with: sizes, fans and their speed. */
export function firstAxes(axes: Axis[]): Axis[] {
  const wanted = [/\/sections$/, /\/thickness_mm$/, /^fans\/class$/, /^movers\/fans$/, /^movers\/pumps$/];
  const water = wanted.flatMap((pattern) => axes.filter((axis) => pattern.test(axis.address)).slice(0, 1));
  if (water.some((axis) => axis.address.endsWith("/sections"))) return water;
  const solid = axes.filter((axis) => /fin_height_mm|fin_pitch_mm|\/count$/.test(axis.address)).slice(0, 3);
  return solid.length ? solid : water.length ? water : axes.slice(0, 2);
}

/** What the brief demands in the workload in view. */
export function demandsOf(document: BuildDocument, workload: string): Demands {
  const ceiling = document.workloads.find((w) => w.id === workload)?.sound_ceiling_dba;
  return {
    margins: [{ workload, place: null, at_least_k: document.brief?.margin_wanted_k ?? 3 }],
    sounds: ceiling === undefined || ceiling === null ? [] : [{ workload, at_most_dba: ceiling }],
    height_mm: null,
    mass_g: null,
    price: null,
  };
}

/** How many candidates the axes make; none where nothing varies. */
export const sizeOf = (axes: Axis[]) =>
  (axes.length ? 1 : 0) * axes.reduce((product, axis) => product * axis.options.length, 1);

/** The question as the server takes it: names are the screen's own. */
export function questionOf(axes: Axis[], demands: Demands, roomC: number | null, criteria: Criterion[]) {
  return {
    vary: axes.map(({ address, options }) => ({ address, options })),
    demands,
    room_c: roomC,
    criteria,
  };
}

/** An axis of a map: a number between two ends. */
export type MapAxis = { address: string; name: string; unit: string; low: number; high: number; whole: boolean };

/** Numbers of a build that a map may run over: duties, sizes, watts, in the document's units. */
export function numericAxes(document: BuildDocument, workload: string): MapAxis[] {
  const found: MapAxis[] = [];
  const add = (address: string, name: string, unit: string, low: number, high: number, whole = false) =>
    found.push({ address, name, unit, low: Number(low.toPrecision(3)), high: Number(high.toPrecision(3)), whole });
  const has = (kind: string) => document.parts.some((part) => part.kind === kind);
  if (has("fan")) add("movers/fans", "All fans: duty", "", 0.3, 1);
  for (const part of document.parts)
    if (part.kind === "radiator" && !part.points)
      add(`${part.id}/sections`, `${nameOf(part)}: sections`, "", 1, 6, true);
  if (has("pump")) add("movers/pumps", "Pump: duty", "", 0.3, 1);
  for (const part of document.parts)
    if (part.kind === "heat_pipe") add(`${part.id}/count`, `${nameOf(part)}: how many`, "", 1, 8, true);
  add(roomAddress(document), `${document.rooms[0]?.name || "Room"}: air`, "°C", 10, 40);
  const told = document.workloads.find((w) => w.id === workload);
  for (const [source, figure] of Object.entries(told?.watts ?? {})) {
    const now = valueOf(figure) ?? 0;
    const part = document.parts.find((p) => p.id === source);
    if (now > 0) add(wattsAddress(workload, source), `${part?.name || source}: watts`, "W", 0.4 * now, 1.6 * now);
  }
  for (const part of document.parts) {
    if (part.kind === "source" || part.kind === "supply") continue;
    for (const [field, value] of Object.entries(part)) {
      const now = valueOf(value as Figure);
      const named = /_(mm|cm2|m|mm2k_w|k_w)$/.test(field) && !["section_mm", "thickness_mm"].includes(field);
      if ((named || (field === "thickness_mm" && part.kind === "panel")) && typeof now === "number" && now > 0)
        add(`${part.id}/${field}`, `${nameOf(part)}: ${words(field)}`, unitOf(field), 0.5 * now, 2 * now);
    }
  }
  return found;
}
