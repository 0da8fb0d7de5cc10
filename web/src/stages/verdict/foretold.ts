import { client, type Schemas } from "$lib/api/client";
import { toLearnFrom, type Load } from "./loads";

/** Each of the newest loads foretold from the others; nothing where there are fewer than two. */
export async function foretold(buildId: string, loads: Load[]): Promise<Schemas["FromOthers"][]> {
  const chosen = toLearnFrom(loads).filter((load) => load.card.kind !== "claim");
  if (chosen.length < 2) return [];
  const body = { loads: chosen.map(({ run, window }) => ({ run, window })), free: [] };
  const { data } = await client.POST("/api/builds/{build_id}/learn", { params: { path: { build_id: buildId } }, body });
  return (data?.from_others ?? []).filter((one) => one.learnt_k !== null);
}
