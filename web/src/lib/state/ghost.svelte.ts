import { client } from "../api/client";
import type { BuildState } from "./build.svelte";

const AFTER_MS = 500;

/** What the last revision would read in the workload and room in view, while the draft differs from it. */
export class Ghost {
  celsius = $state.raw<Record<string, number>>({});
  #timer: ReturnType<typeof setTimeout> | undefined;
  #asked = 0;
  #documents: Record<number, unknown> = {};

  ask(build: BuildState): void {
    const { id, revision, changed, workloadId, roomC } = build;
    clearTimeout(this.#timer);
    const asked = ++this.#asked;
    if (!changed || revision === null || !workloadId) this.celsius = {};
    else this.#timer = setTimeout(() => void this.#fetch(asked, id, revision, workloadId, roomC), AFTER_MS);
  }

  async #fetch(asked: number, id: string, revision: number, workload: string, room_c: number | null) {
    const document = await this.#documentOf(id, revision);
    if (!document || asked !== this.#asked) return;
    const body = { document, workloads: [workload], room_c, samples: 0 } as never;
    const { data } = await client.POST("/api/predict", { body });
    if (asked !== this.#asked) return;
    const places = data?.workloads[0]?.places ?? [];
    this.celsius = Object.fromEntries(places.map((place) => [place.address, place.temperature_c]));
  }

  async #documentOf(build_id: string, number: number): Promise<unknown> {
    if (!(number in this.#documents)) {
      const path = { build_id, number };
      const { data } = await client.GET("/api/builds/{build_id}/revisions/{number}", { params: { path } });
      if (data) this.#documents[number] = data.document;
    }
    return this.#documents[number];
  }
}
