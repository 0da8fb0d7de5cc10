import { client, faultsOf, uploadPicture, type Fault, type RunOut, type Schemas } from "../api/client";

const PICTURES = ["image/png", "image/jpeg", "image/webp"];
const MOST_PICTURE_BYTES = 8 * 2 ** 20;

/** The runs of a build and the one in view. */
export class Runs {
  cards = $state.raw<Schemas["RunCard"][] | null>(null);
  run = $state.raw<RunOut | null>(null);
  /** the load of the run in view */
  window = $state("load");
  faults = $state.raw<Fault[]>([]);

  async list(buildId: string) {
    const { data, error } = await client.GET("/api/builds/{build_id}/runs", {
      params: { path: { build_id: buildId } },
    });
    this.cards = data ?? [];
    this.faults = data ? [] : faultsOf(error);
  }

  /** Look at a run, at its first load unless one is named. */
  async view(id: string, window?: string) {
    const params = { path: { run_id: id }, query: { window } };
    const { data, error } = await client.GET("/api/runs/{run_id}", { params });
    this.run = data ?? null;
    this.window = window ?? data?.windows[0]?.id ?? "load";
    this.faults = data ? [] : faultsOf(error);
  }

  async change(body: Schemas["RunChange"]) {
    if (!this.run) return;
    const { data, error } = await client.PATCH("/api/runs/{run_id}", {
      params: { path: { run_id: this.run.id } },
      body,
    });
    this.faults = data ? [] : faultsOf(error);
    if (!data) return;
    const still = data.windows.some((load) => load.id === this.window);
    await this.view(data.id, still ? this.window : undefined);
  }

  async addPictures(files: Iterable<File>) {
    for (const file of files) {
      if (!this.run) return;
      if (!PICTURES.includes(file.type) || file.size > MOST_PICTURE_BYTES) {
        this.faults = [
          { where: file.name, what: "is no picture that can be kept", allowed: "PNG, JPEG or WebP of up to 8 MB" },
        ];
        return;
      }
      const { data, error } = await uploadPicture(this.run.id, file, "");
      this.faults = data ? [] : faultsOf(error).map((fault) => ({ ...fault, where: file.name }));
      if (!data) return;
      this.run = { ...this.run, document: data.document };
    }
  }

  async removePicture(sha256: string) {
    if (!this.run) return;
    const path = { run_id: this.run.id, sha256 };
    const { data, error } = await client.DELETE("/api/runs/{run_id}/pictures/{sha256}", { params: { path } });
    this.faults = data ? [] : faultsOf(error);
    if (data) this.run = { ...this.run, document: data.document };
  }

  async remove(buildId: string) {
    if (!this.run) return;
    await client.DELETE("/api/runs/{run_id}", { params: { path: { run_id: this.run.id } } });
    this.run = null;
    await this.list(buildId);
  }
}
