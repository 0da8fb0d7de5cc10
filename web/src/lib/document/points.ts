/** Measured points of a part as a small table: which columns a kind has, what is pasted into it, what is stored of it. */
import { parseNumber } from "../units/format";
import type { BuildDocument, Part } from "./build";

export type Column = { key: string; label: string; unit: string; needed: boolean };
type Table = { field: string; says: string; columns: Column[]; pairs: boolean };
export type Row = (number | null)[];

const flow = { key: "airflow_m3_h", label: "air flow", unit: "m³/h", needed: true };
const drop = { key: "pressure_pa", label: "pressure", unit: "Pa", needed: false };
const TABLES: Partial<Record<Part["kind"], Table>> = {
  radiator: {
    field: "points",
    says: "Watts a kelvin of coolant in over air in",
    columns: [
      flow,
      { key: "w_k", label: "W/K", unit: "W/K", needed: true },
      { key: "flow_l_min", label: "coolant", unit: "l/min", needed: false },
      drop,
    ],
    pairs: false,
  },
  cooler: {
    field: "points",
    says: "Base over the air that enters",
    columns: [flow, { key: "k_w", label: "K/W", unit: "K/W", needed: true }, drop],
    pairs: false,
  },
  fan: {
    field: "curve",
    says: "At rated speed",
    columns: [
      { key: "0", label: "air flow", unit: "m³/h", needed: true },
      { key: "1", label: "pressure", unit: "Pa", needed: true },
    ],
    pairs: true,
  },
  pump: {
    field: "curve",
    says: "At rated speed",
    columns: [
      { key: "0", label: "flow", unit: "l/min", needed: true },
      { key: "1", label: "pressure", unit: "kPa", needed: true },
    ],
    pairs: true,
  },
};

export const tableOf = (kind: Part["kind"]): Table | undefined => TABLES[kind];

/** The rows of a part's table as it stands. */
export function rowsOfPart(part: Part, table: Table): Row[] {
  const stored = (part as unknown as Record<string, unknown>)[table.field] as
    Record<string, number>[] | null | undefined;
  return (stored ?? []).map((point) => table.columns.map((column) => point[column.key] ?? null));
}

/** Pasted text as rows: cells parted by tabs, semicolons or blanks; lines without figures (a heading) are left out. */
export function pastedRows(text: string, columns: number): Row[] {
  return text
    .split(/\r?\n/)
    .map((line) => (/[\t;]/.test(line) ? line.split(/[\t;]/) : line.trim().split(/\s+/)).map(parseNumber))
    .filter((cells) => cells.some((cell) => cell !== null))
    .map((cells) => Array.from({ length: columns }, (_, i) => cells[i] ?? null));
}

/** What is wrong with a table, in words; nothing where it may be stored. */
export function wrongWith(rows: Row[], table: Table): string {
  const missing = rows.findIndex((row) => table.columns.some((column, i) => column.needed && row[i] === null));
  if (missing >= 0) return `row ${missing + 1}: ${needed(table)} are needed`;
  if (rows.some((row, i) => i > 0 && row[0]! <= rows[i - 1]![0]!)) return "the flows have to rise from row to row";
  if (table.pairs && rows.length === 1) return "a curve needs two points at least";
  return "";
}

const needed = (table: Table) =>
  table.columns
    .filter((column) => column.needed)
    .map((column) => column.label)
    .join(" and ");

/** Store a table in a part; an empty one gives the figures of its class back. */
export function storePoints(draft: BuildDocument, id: string, table: Table, rows: Row[]): void {
  const part = draft.parts.find((one) => one.id === id) as unknown as Record<string, unknown> | undefined;
  if (!part) return;
  if (!rows.length) delete part[table.field];
  else if (table.pairs) part[table.field] = rows;
  else
    part[table.field] = rows.map((row) =>
      Object.fromEntries(table.columns.flatMap((column, i) => (row[i] === null ? [] : [[column.key, row[i]]]))),
    );
}
