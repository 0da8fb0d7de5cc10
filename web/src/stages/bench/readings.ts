import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";
import type { BuildState } from "$lib/state/build.svelte";

export type Reading = Schemas["Reading"];
/** A reading as it is being typed. */
export type Row = {
  minute: string;
  role: string;
  kind: "now" | "highest" | "mean";
  value: string;
  word: string;
  load: "on" | "before" | "after";
  after: string;
};

/** What is known of the room of a run: two figures, one, a rough one, or another run of the same evening. */
export type Rooms = { start?: number; end?: number; about?: number; evening?: string };

export type Readable = { role: string; name: string; unit: string; group: string; words?: string[] };

const SCORES: [string, string, string][] = [
  ["job/jobs_per_hour", "Jobs per hour", "jobs/h"],
  ["job/frames_mean", "Frames per second, mean", "frames/s"],
  ["job/frames_low", "Frames per second, lowest 1 %", "frames/s"],
  ["job/seconds_per_job", "Seconds per job", "s"],
];
const FELT = ["cool", "warm", "too hot to hold"];
const SMOKE = ["drawn in", "still", "blown out"];

/** What may be read beside the machine, in the order of the answer: parts, coolant, air, room, watts, speeds, the rest. */
export function readable({ result, document, sourceNames }: BuildState): Readable[] {
  const warm = (role: string, name: string) => ({ role, name, unit: "°C", group: "Temperatures" });
  const of = (...kinds: string[]) => (document?.parts ?? []).filter((part) => kinds.includes(part.kind));
  const named = (id: string) => sourceNames[id] ?? id;
  const bodies = (document?.parts ?? []).filter((part) => ["panel", "sink"].includes(part.kind));
  const openings = (document?.parts ?? []).filter((part) => part.kind === "opening");
  return [
    ...(result?.places ?? []).map((place) => warm(`${place.address}/temperature`, place.name)),
    ...(result?.loops ?? []).map((loop) => warm(`${loop.address}/coolant_hot`, `${loop.name} coolant, hottest`)),
    ...(result?.loops ?? []).map((loop) => warm(`${loop.address}/coolant_cold`, `${loop.name} coolant, coolest`)),
    ...(result?.zones ?? [])
      .filter((zone) => zone.kind === "box")
      .map((zone) => warm(`${zone.address}/air`, zone.name)),
    warm(ROOM, "Room at the intake"),
    ...bodies.map(({ id }) => warm(`${id}/touch`, `${named(id)}, surface`)),
    ...of("source").map(({ id }) => ({ role: `${id}/power`, name: `${named(id)}, watts`, unit: "W", group: "Watts" })),
    { role: "wall/wall_power", name: "At the wall, watts", unit: "W", group: "Watts" },
    ...of("source").map(({ id }) => ({
      role: `${id}/limit`,
      name: `${named(id)}, power limit`,
      unit: "W",
      group: "Watts",
    })),
    ...of("source").map(({ id }) => ({
      role: `${id}/clock`,
      name: `${named(id)}, clock`,
      unit: "MHz",
      group: "Watts",
    })),
    ...of("fan", "pump").map(({ id }) => ({
      role: `${id}/speed`,
      name: `${named(id)}, speed`,
      unit: "rpm",
      group: "Speeds",
    })),
    ...of("fan", "pump").map(({ id }) => ({
      role: `${id}/duty`,
      name: `${named(id)}, duty`,
      unit: "%",
      group: "Speeds",
    })),
    ...(result?.loops ?? []).map((loop) => ({
      role: `${loop.address}/flow`,
      name: `${loop.name}, flow`,
      unit: "l/min",
      group: "Flow and sound",
    })),
    { role: "sound/level", name: "Sound where you sit", unit: "dBA", group: "Flow and sound" },
    ...openings.map(({ id }) => ({
      role: `${id}/air_speed`,
      name: `${named(id)}, air speed`,
      unit: "m/s",
      group: "Flow and sound",
    })),
    ...openings.map(({ id }) => ({
      role: `${id}/smoke`,
      name: `${named(id)}, smoke`,
      unit: "",
      group: "Flow and sound",
      words: SMOKE,
    })),
    ...bodies.map(({ id }) => ({
      role: `${id}/felt`,
      name: `${named(id)}, to the hand`,
      unit: "",
      group: "Flow and sound",
      words: FELT,
    })),
    ...SCORES.map(([role, name, unit]) => ({ role, name, unit, group: "Score of the job" })),
  ];
}

export const ROOM = "room/air";

const nameOf = (build: BuildState, workload: string) =>
  build.document?.workloads.find((one) => one.id === workload)?.name || workload;

/** Keep readings as a run of the revision in view, which is kept first where there is none; its id, or what is wrong. */
export async function keepReadings(
  build: BuildState,
  readings: Reading[],
  rooms: Rooms,
  claim = "",
  windows: Schemas["LoadWindow"][] = [],
): Promise<{ id?: string; faults: Fault[] }> {
  if (!build.revision) await build.keepRevision("first run on the bench");
  const { data, error } = await client.POST("/api/builds/{build_id}/runs/readings", {
    params: { path: { build_id: build.id } },
    body: {
      workload: windows[0]?.workload ?? build.workloadId,
      windows: windows.length > 1 ? windows : [],
      name: `${windows.map((one) => nameOf(build, one.workload)).join(", ") || build.workload?.name} ${claim ? "claimed" : "typed"}`,
      note: "",
      kind: claim ? "claim" : "readings",
      source: claim,
      // one load alone is the run's own window
      readings: windows.length > 1 ? readings : readings.map((one) => ({ ...one, window: null })),
      room_start_c: rooms.start ?? null,
      room_end_c: rooms.end ?? null,
      about_c: rooms.about ?? null,
      evening_of: rooms.evening ?? null,
    },
  });
  return data ? { id: data.id, faults: [] } : { faults: faultsOf(error) };
}
