/** Everything in a build that can be looked for: what has an id, and every figure of it with its value. */
import { labelOf, unitOf } from "./fields";
import { placesOf, valueOf, type BuildDocument, type Figure } from "./build";

export type Found = { id: string; label: string; says: string; sort: "thing" | "figure" | "workload" };

function figuresOf(owner: Record<string, unknown>, name: string): Found[] {
  return Object.entries(owner).flatMap(([field, figure]) => {
    const value = valueOf(figure as Figure);
    if (typeof value !== "number") return [];
    const says = `${Number(value.toPrecision(5))} ${unitOf(field)}`.trim();
    return [{ id: String(owner["id"]), label: `${name}: ${labelOf(field)}`, says, sort: "figure" as const }];
  });
}

export function everything(document: BuildDocument): Found[] {
  const places = placesOf(document);
  const zones = document.zones;
  const things = [...document.parts, ...places, ...document.loops, ...zones, ...document.air_paths];
  const named = (item: { id: string; name?: unknown }) => String(item.name || item.id);
  return [
    ...things.map((item) => ({ id: item.id, label: named(item), says: item.id, sort: "thing" as const })),
    ...document.workloads.map((item) => ({
      id: item.id,
      label: named(item),
      says: "workload",
      sort: "workload" as const,
    })),
    ...things.flatMap((item) => figuresOf(item as Record<string, unknown>, named(item))),
    ...document.workloads.flatMap((workload) =>
      Object.entries(workload.watts).map(([source, figure]) => ({
        id: source,
        label: `${named(document.parts.find((p) => p.id === source) ?? { id: source })}: watts in ${named(workload)}`,
        says: `${valueOf(figure)} W`,
        sort: "figure" as const,
      })),
    ),
  ];
}

/** Those that hold every word, things before figures. */
export function found(all: Found[], text: string, most: number): Found[] {
  const wanted = text.toLowerCase().split(/\s+/).filter(Boolean);
  const hits = all.filter((item) => {
    const hay = `${item.label} ${item.id}`.toLowerCase();
    return wanted.every((word) => hay.includes(word));
  });
  const rank = { thing: 0, workload: 1, figure: 2 };
  return hits.sort((a, b) => rank[a.sort] - rank[b.sort]).slice(0, most);
}
