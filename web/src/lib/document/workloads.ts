/** Workloads: added, copied, ordered and taken out of a build and of everything that names them. */
import { valueOf, withValue, type BuildDocument, type Part, type Workload } from "./build";
import { freeId } from "./ids";

/** What a workload may start from: nothing, another one, or the usual set of them. */
export type StartOf = { kind: "blank" } | { kind: "copy"; of: string } | { kind: "set" } | { kind: "machines" };

/** share of a source's watts that it draws while it waits (common practice) */
const IDLE_SHARE = 0.1;
const ALL = "All at once";

const watts = (draft: BuildDocument, share: (source: string) => number): Workload["watts"] =>
  Object.fromEntries(
    sourcesOf(draft).map((source) => [source, Math.round(10 * share(source) * mostOf(draft, source)) / 10]),
  );

const sourcesOf = (document: BuildDocument) => document.parts.filter(isSource).map((part) => part.id);

/** The most that a source draws in any workload. */
const mostOf = (document: BuildDocument, source: string) =>
  Math.max(0, ...document.workloads.map((workload) => valueOf(workload.watts[source]) ?? 0));

/**
 * Add a workload, or a set: idle, each source or each machine alone, all at once. Answers the id of the first new one.
 */
export function addWorkload(draft: BuildDocument, start: StartOf): string {
  if (start.kind === "set") return addSet(draft, draft.parts.filter(isSource).map(alone));
  if (start.kind === "machines")
    return addSet(
      draft,
      (draft.machines ?? []).map((machine) => ofMachine(draft, machine)),
    );
  const from = start.kind === "copy" ? draft.workloads.find((w) => w.id === start.of) : undefined;
  const name = freeName(draft, from ? `${from.name || from.id}, copy` : "Workload");
  const told = from ?? draft.workloads.at(-1);
  const made: Workload = {
    ...structuredClone(from ?? { watts: watts(draft, () => 0), movers: told?.movers ?? {} }),
    id: freeId(draft, name),
    name,
  };
  const after = from ? draft.workloads.indexOf(from) + 1 : draft.workloads.length;
  draft.workloads.splice(after, 0, made);
  return made.id;
}

/** What runs by itself in a workload of a set. */
type Alone = { name: string; runs: (source: string) => boolean };

const isSource = (part: Part) => part.kind === "source";
const alone = (part: Part): Alone => ({ name: part.name || part.id, runs: (source) => source === part.id });
const ofMachine = (draft: BuildDocument, { id, name }: { id: string; name?: string }): Alone => ({
  name: name || id,
  runs: (source) => draft.parts.find((part) => part.id === source)?.machine === id,
});

function addSet(draft: BuildDocument, each: Alone[]): string {
  const movers = draft.workloads.at(-1)?.movers ?? {};
  const wanted: [string, (source: string) => number][] = [
    ["Idle", () => IDLE_SHARE],
    ...each.map(({ name, runs }): [string, (source: string) => number] => [
      `${name} alone`,
      (source) => (runs(source) ? 1 : IDLE_SHARE),
    ]),
    [ALL, () => 1],
  ];
  const made = wanted
    .filter(([name]) => !draft.workloads.some((workload) => workload.name === name))
    .map(([name, share]): Workload => ({ id: "", name, watts: watts(draft, share), movers: structuredClone(movers) }));
  for (const workload of made) {
    workload.id = freeId(draft, workload.name ?? "workload");
    draft.workloads.push(workload);
  }
  return made[0]?.id ?? draft.workloads[0]!.id;
}

function freeName(document: BuildDocument, wanted: string): string {
  const taken = new Set(document.workloads.map((workload) => workload.name));
  for (let n = 1; ; n += 1) {
    const name = n === 1 ? wanted : `${wanted} ${n}`;
    if (!taken.has(name)) return name;
  }
}

/** Watts of a source in a workload, as a person states them. */
export function stateWatts(draft: BuildDocument, workload: string, source: string, value: number): void {
  const target = draft.workloads.find((own) => own.id === workload);
  if (target) target.watts[source] = withValue(target.watts[source], value);
}

/** Take a workload out; the last one stays, since every answer is of a workload. */
export function removeWorkload(draft: BuildDocument, id: string): void {
  if (draft.workloads.length < 2) return;
  draft.workloads = draft.workloads.filter((workload) => workload.id !== id);
  const brief = draft.brief;
  if (brief?.worst_workloads) brief.worst_workloads = brief.worst_workloads.filter((other) => other !== id);
}

/** Move an item of a list by one; the ends do not wrap. */
export function moveIn<Item extends { id: string }>(list: Item[], id: string, by: -1 | 1): void {
  const at = list.findIndex((item) => item.id === id);
  const to = at + by;
  if (at < 0 || to < 0 || to >= list.length) return;
  [list[at], list[to]] = [list[to]!, list[at]!];
}
