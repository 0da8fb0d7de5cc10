import { client, faultsOf, uploadPicture, type Fault, type RunOut, type Schemas } from "../api/client";

const PICTURES = ["image/png", "image/jpeg", "image/webp"];
const MOST_PICTURE_BYTES = 8 * 2 ** 20;

/** The runs of a build and the one in view. What is asked of the run in view is answered in the order in which it was asked:
    an older answer never puts back what a newer one changed. */
export class Runs {
  cards = $state.raw<Schemas["RunCard"][] | null>(null);
  run = $state.raw<RunOut | null>(null);
  /** the load of the run in view */
  window = $state("load");
  faults = $state.raw<Fault[]>([]);
  #last: Promise<unknown> = Promise.resolve();

  async list(buildId: string) {
    const { data, error } = await client.GET("/api/builds/{build_id}/runs", {
      params: { path: { build_id: buildId } },
    });
    this.cards = data ?? [];
    this.faults = data ? [] : faultsOf(error);
  }

  /** Look at a run, at its first load unless one is named. */
  view = (id: string, window?: string) => this.#inTurn(() => this.#read(id, window));

  change = (body: Schemas["RunChange"]) => this.#inTurn(() => this.#change(body));

  addPictures = (files: Iterable<File>) =>
    this.#inTurn(async () => {
      for (const file of files) if (!(await this.#addPicture(file))) return;
    });

  captionPicture = (sha256: string, caption: string) =>
    this.#inTurn(async () => {
      const pictures = this.run?.document.pictures ?? [];
      await this.#change({ pictures: pictures.map((one) => (one.sha256 === sha256 ? { ...one, caption } : one)) });
    });

  removePicture = (sha256: string) =>
    this.#inTurn(async () => {
      if (!this.run) return;
      const path = { run_id: this.run.id, sha256 };
      const { data, error } = await client.DELETE("/api/runs/{run_id}/pictures/{sha256}", { params: { path } });
      this.faults = data ? [] : faultsOf(error);
      if (data) this.run = { ...this.run, document: data.document };
    });

  remove = (buildId: string) =>
    this.#inTurn(async () => {
      if (!this.run) return;
      await client.DELETE("/api/runs/{run_id}", { params: { path: { run_id: this.run.id } } });
      this.run = null;
      await this.list(buildId);
    });

  #inTurn<T>(ask: () => Promise<T>): Promise<T> {
    const turn = this.#last.then(ask);
    this.#last = turn.catch(() => undefined);
    return turn;
  }

  async #read(id: string, window?: string) {
    const params = { path: { run_id: id }, query: { window } };
    const { data, error } = await client.GET("/api/runs/{run_id}", { params });
    this.run = data ?? null;
    this.window = window ?? data?.windows[0]?.id ?? "load";
    this.faults = data ? [] : faultsOf(error);
  }

  async #change(body: Schemas["RunChange"]) {
    if (!this.run) return;
    const { data, error } = await client.PATCH("/api/runs/{run_id}", {
      params: { path: { run_id: this.run.id } },
      body,
    });
    this.faults = data ? [] : faultsOf(error);
    if (!data) return;
    const still = data.windows.some((load) => load.id === this.window);
    await this.#read(data.id, still ? this.window : undefined);
  }

  async #addPicture(file: File): Promise<boolean> {
    if (!this.run) return false;
    if (!PICTURES.includes(file.type) || file.size > MOST_PICTURE_BYTES) {
      this.faults = [
        { where: file.name, what: "is no picture that can be kept", allowed: "PNG, JPEG or WebP of up to 8 MB" },
      ];
      return false;
    }
    const { data, error } = await uploadPicture(this.run.id, file, "");
    this.faults = data ? [] : faultsOf(error).map((fault) => ({ ...fault, where: file.name }));
    if (data) this.run = { ...this.run, document: data.document };
    return !!data;
  }
}
