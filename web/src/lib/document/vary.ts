/** A study's question in the browser: axes with the values they may take, demands, and steps between two ends. */
import type { components } from "../api/schema";
import { isDuty } from "./addresses";
import type { BuildDocument, Part } from "./build";

type Schemas = components["schemas"];
export type Option = { value: unknown; label?: string; price?: number };
/** An axis as it is offered, or as somebody has narrowed it. */
export type Axis = Omit<Schemas["OfferedAxis"], "options"> & { options: Option[] };
/** What a question takes of an axis. */
export type AskedAxis = Pick<Axis, "address" | "options">;
export type MapAxis = Schemas["OfferedNumber"];
export type Demands = {
  margins: { workload: string; place?: string | null; at_least_k: number }[];
  sounds: { workload: string; at_most_dba: number }[];
  /** slots that a candidate's parts must go into */
  fits?: string[];
  height_mm?: number | null;
  mass_g?: number | null;
  price?: number | null;
};
export type Criterion = "margin" | "sound" | "height" | "mass" | "price";

type Workload = BuildDocument["workloads"][number];
/** The demand on sound of a workload: its own limit, where it has one. */
export const soundsOf = ({ id, sound_ceiling_dba: limit }: Workload): Demands["sounds"] =>
  limit == null ? [] : [{ workload: id, at_most_dba: limit }];

/** Demands with a further workload: the margin that the first one keeps, and its own sound limit where it has one. */
export function withWorkload(demands: Demands, workload: Workload): Demands {
  const margin = { workload: workload.id, place: null, at_least_k: demands.margins[0]?.at_least_k ?? 3 };
  return { ...demands, margins: [...demands.margins, margin], sounds: [...demands.sounds, ...soundsOf(workload)] };
}

/** Numbers from low to high in equal steps, rounded to what a person would type. */
export function steps(low: number, high: number, count: number): number[] {
  if (count < 2 || high <= low) return [low];
  const size = (high - low) / (count - 1);
  return Array.from({ length: count }, (_, i) => Number((low + i * size).toPrecision(5)));
}

const percent = (duty: number) => `${Math.round(100 * duty)} %`;

const duties = (low: number, high: number, count: number): Option[] =>
  steps(low, high, count).map((value) => ({ value: Number(value.toFixed(3)), label: percent(value) }));

const numbers = (values: number[], unit: string): Option[] =>
  values.map((value) => ({ value, label: `${value}${unit ? ` ${unit}` : ""}` }));

/** The values of a range from low to high. */
export const rangeOf = (axis: Axis, low: number, high: number, count: number): Option[] =>
  isDuty(axis.address) ? duties(low, high, count) : numbers(steps(low, high, count), axis.unit);

/** What the brief demands in the workload in view. */
export function demandsOf(document: BuildDocument, workload: string): Demands {
  const told = document.workloads.find((w) => w.id === workload);
  return {
    margins: [{ workload, place: null, at_least_k: document.brief?.margin_wanted_k ?? 3 }],
    sounds: told ? soundsOf(told) : [],
    height_mm: null,
    mass_g: null,
    price: null,
  };
}

/** How many candidates the axes make; none where nothing varies. */
export const sizeOf = (axes: Axis[]) =>
  (axes.length ? 1 : 0) * axes.reduce((product, axis) => product * axis.options.length, 1);

/** The question as the server takes it: names are the screen's own. */
export function questionOf(axes: AskedAxis[], demands: Demands, roomC: number | null, criteria: Criterion[]) {
  return {
    vary: axes.map(({ address, options }) => ({ address, options })),
    demands,
    room_c: roomC,
    criteria,
  };
}

type Kept = { kind: string; name: string; part: Record<string, unknown> };
/** Parts of one's own shelf that could stand in place of one of the build's: an axis for each part that has such. */
export function swapsOf(parts: Part[], own: Kept[]): Axis[] {
  return parts.flatMap((part) => {
    const items = own.filter((item) => item.kind === part.kind);
    if (!items.length) return [];
    const options = [
      { value: part, label: `${part.name || part.id}, as it is` },
      ...items.map((item) => ({ value: { ...item.part, name: item.name }, label: item.name })),
    ];
    const name = `${part.name || part.id}: from the shelf`;
    return [{ address: `${part.id}/part`, name, unit: "", range: false, first: false, options }];
  });
}
