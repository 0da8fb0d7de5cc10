/** What every field of the document says of itself, read from the published schema: label, unit, range, group, choices. */
import schema from "../../../../docs/build.schema.json";
import type { BuildDocument, Figure, Owner } from "./build";

type Property = {
  "x-label"?: string;
  "x-help"?: string;
  "x-unit"?: string;
  "x-group"?: string;
  "x-range"?: { above?: number; at_least?: number; at_most?: number };
  "x-options"?: number[];
  "x-whole"?: boolean;
  $ref?: string;
  enum?: string[];
  anyOf?: Property[];
  type?: string;
  const?: string;
  default?: unknown;
};
export type Field = {
  key: string;
  label: string;
  help: string;
  unit: string;
  group: string;
  low: number;
  high: number;
  /** a number of the part's shape, without a tolerance */
  whole: boolean;
  figure: boolean;
  choices: string[];
  /** whether nothing may be said; else what stands for nothing */
  empty: boolean;
  assumed: string | undefined;
};

const DEFINITIONS = schema.$defs as unknown as Record<string, { properties?: Record<string, Property> }>;
/** Kind of a part -> its definition. */
const OF_KIND = Object.fromEntries(
  Object.entries(DEFINITIONS).flatMap(([name, { properties }]) =>
    properties?.["kind"]?.const ? [[properties["kind"].const, name] as const] : [],
  ),
);
const SECTIONS = {
  rooms: "Room",
  zones: "Zone",
  loops: "Loop",
  workloads: "Workload",
  air_paths: "AirPath",
  recirculations: "Recirculation",
  feeds: "Feed",
} as const;
/** The order in which groups of fields stand. */
export const GROUPS = ["state", "size", "heat", "flow", "drive", "sound"];

function made(key: string, property: Property): Field | undefined {
  if (!property["x-label"]) return undefined;
  const branches = [property, ...(property.anyOf ?? [])];
  const range = property["x-range"] ?? {};
  return {
    key,
    label: property["x-label"],
    help: property["x-help"] ?? "",
    unit: property["x-unit"] ?? "",
    group: property["x-group"] ?? "size",
    low: range.at_least ?? range.above ?? -Infinity,
    high: range.at_most ?? Infinity,
    whole: property["x-whole"] ?? false,
    figure: branches.some((branch) => branch.$ref?.endsWith("/Figure")),
    choices: branches.flatMap((branch) => branch.enum ?? []),
    empty: branches.some((branch) => branch.type === "null"),
    assumed: typeof property.default === "string" ? property.default : undefined,
  };
}

const TABLE: Record<string, Record<string, Field>> = Object.fromEntries(
  Object.entries(DEFINITIONS).map(([name, { properties }]) => {
    const fields = Object.entries(properties ?? {}).flatMap(([key, property]) => made(key, property) ?? []);
    return [name, Object.fromEntries(fields.map((field) => [field.key, field]))];
  }),
);
/** The first field of a key, whatever it stands in: for addresses of what is no longer there. */
const ANY = Object.assign({}, ...Object.values(TABLE).reverse()) as Record<string, Field>;

/** The definition that an owner is of: its part's kind, or the section it stands in. */
export function modelOf(document: BuildDocument, owner: Owner): string {
  if ("kind" in owner && owner.kind && OF_KIND[owner.kind]) return OF_KIND[owner.kind]!;
  const lists = Object.keys(SECTIONS) as (keyof typeof SECTIONS)[];
  const section = lists.find((name) => (document[name] as Owner[]).some((item) => item.id === owner.id));
  return section ? SECTIONS[section] : "Place";
}

/** Fields of a definition by key. */
export const fieldsOf = (model: string): Record<string, Field> => TABLE[model] ?? {};
/** Fields of a kind of part by key. */
export const fieldsOfKind = (kind: string) => fieldsOf(OF_KIND[kind] ?? "");
/** What a field is called, also where nothing is known of what it stands in. */
export const labelOf = (key: string, model = "") =>
  (fieldsOf(model)[key] ?? ANY[key])?.label ?? key.replaceAll("_", " ");
export const unitOf = (key: string, model = "") => (fieldsOf(model)[key] ?? ANY[key])?.unit ?? "";

/** A row of a sheet: a field with the figure that somebody stated, or what a class says, [value, half width]. */
export type Row = { field: Field; figure: Figure | undefined; byClass: number[] | undefined };

/** Rows of an owner: what is stated, what its class gives, and what somebody is about to state. */
export function rowsOf(
  fields: Record<string, Field>,
  owner: object,
  byClass: Record<string, number[]>,
  added: readonly string[],
): Row[] {
  const stated = owner as Record<string, Figure | null | undefined>;
  return Object.values(fields)
    .filter((field) => (field.figure && field.group !== "cost") || field.whole || field.key === "section_mm")
    .map((field) => ({ field, figure: stated[field.key] ?? undefined, byClass: byClass[field.key] }))
    .filter(({ field, figure, byClass: given }) => figure !== undefined || given || added.includes(field.key))
    .map((row) => (row.figure === undefined ? row : { ...row, byClass: undefined }));
}

/** Figures that are neither stated nor given. */
export const addable = (fields: Record<string, Field>, rows: Row[]): Field[] =>
  Object.values(fields).filter(
    (field) => field.figure && field.group !== "cost" && !rows.some((row) => row.field.key === field.key),
  );
