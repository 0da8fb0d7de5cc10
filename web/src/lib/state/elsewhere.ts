import { client } from "../api/client";
import type { BuildState } from "./build.svelte";

/** how often the server is asked whether a build in view was changed elsewhere */
const EVERY_MS = 3000;

/** Keep a build in view up with what other windows and other people store of it; ends when the answer is called. */
export function watchElsewhere(build: BuildState, isHidden: () => boolean): () => void {
  const timer = setInterval(() => {
    if (!isHidden()) void lookElsewhere(build);
  }, EVERY_MS);
  return () => clearInterval(timer);
}

/** Ask once whether a newer state is stored than the one in view, and take it. */
export async function lookElsewhere(build: BuildState): Promise<void> {
  if (!build.id || build.saved !== "saved" || build.conflict) return;
  const { data } = await client.GET("/api/builds/{build_id}/standing", { params: { path: { build_id: build.id } } });
  if (data && data.id === build.id && data.sequence > build.sequence) await build.catchUp();
}
