/** A part of the shelf in words: what it states itself, else what its class says. */
import { fixed, significant } from "../units/format";
import { fieldsOfKind, labelOf, unitOf } from "./fields";

type OfClass = { figures: Record<string, number[]>; curve: number[][] | null };
type Kept = { kind: string; part: Record<string, unknown> };
/** figures that tell parts of a kind apart least */
const MINOR = /factor|capacity|share|duty|size/;
const SHOWN = 4;

const named = (kind: string, field: string) =>
  fieldsOfKind(kind)[field] ?? { label: labelOf(field), unit: unitOf(field) };

export function toldOf({ kind, part }: Kept, known: OfClass | undefined): string {
  const rows = Object.entries(part).flatMap(([field, figure]) => {
    const value = typeof figure === "object" && figure !== null && "value" in figure ? figure.value : figure;
    if (typeof value !== "number") return [];
    const { label, unit } = named(kind, field);
    return [`${label} ${fixed(value, Number.isInteger(value) ? 0 : 2)} ${unit}`.trim()];
  });
  if (Array.isArray(part["curve"])) rows.unshift(`curve of ${part["curve"].length} points`);
  return rows.join(" · ") || (known ? ofClass(kind, known) : "");
}

function ofClass(kind: string, known: OfClass): string {
  const figure = (value: number | null | undefined) => significant(value, 3);
  const figures = Object.entries(known.figures)
    .filter(([field]) => !MINOR.test(field))
    .slice(0, SHOWN)
    .map(([field, [value, half]]) => {
      const { label, unit } = named(kind, field);
      return `${label} ${figure(value)} ± ${figure(half)} ${unit}`.trim();
    });
  const [first, last] = [known.curve?.[0], known.curve?.at(-1)];
  if (first && last) {
    const [flow, pressure] = kind === "fan" ? ["m³/h", "Pa"] : ["l/min", "kPa"];
    figures.unshift(`to ${figure(last[0] ?? 0)} ${flow}, ${figure(first[1] ?? 0)} ${pressure}`);
  }
  return figures.join(" · ");
}
