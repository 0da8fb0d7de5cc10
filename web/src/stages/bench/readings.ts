import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";
import type { BuildState } from "$lib/state/build.svelte";

export type Reading = Schemas["ReadingIn"];
type Rooms = { start: number | undefined; end: number | undefined };

/** What may be read beside the machine, in the order of the answer: parts, coolant, air. */
export function readable({ result }: BuildState): { role: string; name: string }[] {
  return [
    ...(result?.places ?? []).map((place) => ({ role: `${place.address}/temperature`, name: place.name })),
    ...(result?.loops ?? []).map((loop) => ({
      role: `${loop.address}/coolant_hot`,
      name: `${loop.name} coolant, hottest`,
    })),
    ...(result?.zones ?? [])
      .filter((zone) => zone.kind === "box")
      .map((zone) => ({ role: `${zone.address}/air`, name: zone.name })),
  ];
}

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
