import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";
import type { BuildState } from "$lib/state/build.svelte";

export type Reading = Schemas["ReadingIn"];
type Rooms = { start: number | undefined; end: number | undefined };

export type Readable = { role: string; name: string; unit: string };

/** What may be read beside the machine, in the order of the answer: parts, coolant, air, room, watts, speeds. */
export function readable({ result, document, sourceNames }: BuildState): Readable[] {
  const warm = (role: string, name: string) => ({ role, name, unit: "°C" });
  const of = (...kinds: string[]) => (document?.parts ?? []).filter((part) => kinds.includes(part.kind));
  return [
    ...(result?.places ?? []).map((place) => warm(`${place.address}/temperature`, place.name)),
    ...(result?.loops ?? []).map((loop) => warm(`${loop.address}/coolant_hot`, `${loop.name} coolant, hottest`)),
    ...(result?.zones ?? [])
      .filter((zone) => zone.kind === "box")
      .map((zone) => warm(`${zone.address}/air`, zone.name)),
    warm(ROOM, "Room at the intake"),
    ...of("source").map(({ id }) => ({ role: `${id}/power`, name: `${sourceNames[id]}, watts`, unit: "W" })),
    ...of("fan", "pump").map(({ id }) => ({ role: `${id}/speed`, name: `${sourceNames[id]}, speed`, unit: "rpm" })),
  ];
}

export const ROOM = "room/air";

/** Keep readings as a run of the revision in view, which is kept first where there is none; its id, or what is wrong. */
export async function keepReadings(
  build: BuildState,
  readings: Reading[],
  rooms: Rooms,
): Promise<{ id?: string; faults: Fault[] }> {
  if (!build.revision) await build.keepRevision("first run on the bench");
  const { data, error } = await client.POST("/api/builds/{build_id}/runs/readings", {
    params: { path: { build_id: build.id } },
    body: {
      workload: build.workloadId,
      name: `${build.workload?.name} typed`,
      note: "",
      readings,
      room_start_c: rooms.start ?? null,
      room_end_c: rooms.end ?? null,
    },
  });
  return data ? { id: data.id, faults: [] } : { faults: faultsOf(error) };
}
