import { client, faultsOf, isGone, type Fault, type Schemas } from "../api/client";

export type LiveOut = Schemas["LiveOut"];
export type Watched = Schemas["Watched"];
export type LiveChannel = Schemas["LiveChannel"];
/** Where a logger sends to, shown once. */
export type Entrance = { address: string; token: string };

const ROWS_MS = 400;
const WATCH_MS = 2000;
/** where the server does not answer it is asked more and more seldom, up to this */
const GONE_MS = 5000;

/** Live runs of a build, and the one in view: its rows as they come, what is said of them, what they are held against. */
export class Live {
  open = $state.raw<LiveOut[]>([]);
  faultChoices = $state.raw<Schemas["FaultChoice"][]>([]);
  now = $state.raw<LiveOut | null>(null);
  entrance = $state.raw<Entrance | null>(null);
  channels = $state.raw<LiveChannel[]>([]);
  rows = $state.raw<(number | null)[][]>([]);
  watched = $state.raw<Watched | null>(null);
  expected = $state.raw<Schemas["InTime"] | null>(null);
  faults = $state.raw<Fault[]>([]);
  gone = $state(false);
  busy = $state(false);
  #cursor = 0;
  #batches: Record<number, (number | null)[][]> = {};
  #timers: ReturnType<typeof setTimeout>[] = [];
  #asking: Promise<void>[] = [];

  async list(buildId: string) {
    const { data, error } = await client.GET("/api/builds/{build_id}/live", {
      params: { path: { build_id: buildId } },
    });
    this.open = data ?? [];
    this.faults = data ? [] : faultsOf(error);
    if (!this.now && this.open.length) this.view(this.open.at(-1)!);
  }

  /** What may go wrong on the simulated bench under a load. */
  async choices(buildId: string, workload: string) {
    const params = { path: { build_id: buildId }, query: { workload } };
    const { data } = await client.GET("/api/builds/{build_id}/live/faults", { params });
    this.faultChoices = data ?? [];
  }

  async begin(buildId: string, body: Schemas["LiveIn"]) {
    this.busy = true;
    const { data, error } = await client.POST("/api/builds/{build_id}/live", {
      params: { path: { build_id: buildId } },
      body,
    });
    this.#begun(buildId, data, error);
    if (data) this.entrance = { address: data.address, token: data.token };
  }

  async practise(buildId: string, body: Schemas["PracticeIn"]) {
    this.busy = true;
    const { data, error } = await client.POST("/api/builds/{build_id}/live/practice", {
      params: { path: { build_id: buildId } },
      body,
    });
    this.#begun(buildId, data, error);
  }

  #begun(buildId: string, data: LiveOut | undefined, error: unknown) {
    this.busy = false;
    this.faults = data ? [] : faultsOf(error);
    if (!data) return;
    this.open = [...this.open, data];
    this.view(data);
  }

  /** Look at a live run: its rows from the first on. */
  view(live: LiveOut) {
    this.leave();
    this.now = live;
    this.#cursor = 0;
    this.#batches = {};
    this.rows = [];
    this.channels = [];
    this.watched = null;
    this.expected = null;
    this.entrance = null;
    this.#asking = [this.#follow(live.id), this.#watch(live.id)];
  }

  /** Stop asking. */
  leave() {
    for (const timer of this.#timers) clearTimeout(timer);
    this.#timers = [];
    this.now = null;
  }

  #again(what: () => Promise<void>, ms: number) {
    const ask = () => (this.#asking = [...this.#asking.slice(-2), what()]);
    this.#timers = [...this.#timers.slice(-8), setTimeout(ask, this.gone ? GONE_MS : ms)];
  }

  async #follow(id: string) {
    const params = { path: { live_id: id }, query: { after: this.#cursor } };
    const { data, error, response } = await client.GET("/api/live/{live_id}/rows", { params });
    if (this.now?.id !== id) return;
    this.gone = isGone(response);
    if (data) this.#take(data);
    else if (!this.gone) this.faults = faultsOf(error);
    if (!data?.ended) this.#again(() => this.#follow(id), ROWS_MS);
  }

  #take(page: Schemas["LivePage"]) {
    this.#cursor = page.cursor;
    this.channels = page.channels;
    const fresh = page.batches.filter((batch) => !(batch.batch in this.#batches));
    if (!fresh.length) return;
    for (const batch of fresh) this.#batches[batch.batch] = batch.rows;
    this.rows = Object.values(this.#batches)
      .flat()
      .sort((a, b) => a[0]! - b[0]!);
  }

  async #watch(id: string) {
    const params = { path: { live_id: id } };
    const { data, response } = await client.GET("/api/live/{live_id}/watch", { params });
    if (this.now?.id !== id) return;
    if (response.ok) this.watched = data ?? null;
    if (this.watched && !this.expected) {
      const told = await client.GET("/api/live/{live_id}/expected", { params });
      if (this.now?.id === id) this.expected = told.data ?? null;
    }
    if (!this.now.ended) this.#again(() => this.#watch(id), WATCH_MS);
  }

  /** End it and keep it as a run, whose id is given; null where nothing had come. */
  async end(): Promise<string | null> {
    if (!this.now) return null;
    this.busy = true;
    const { data, error } = await client.POST("/api/live/{live_id}/end", {
      params: { path: { live_id: this.now.id } },
    });
    this.busy = false;
    this.faults = data ? [] : faultsOf(error);
    if (!data) return null;
    this.open = this.open.filter((one) => one.id !== data.id);
    this.now = data;
    return data.run ?? null;
  }

  async discard() {
    if (!this.now) return;
    const id = this.now.id;
    // what is still being asked of it would find nothing
    this.leave();
    await Promise.all(this.#asking);
    const { error } = await client.DELETE("/api/live/{live_id}", { params: { path: { live_id: id } } });
    this.faults = error ? faultsOf(error) : [];
    if (!error) this.open = this.open.filter((one) => one.id !== id);
  }

  async newToken() {
    if (!this.now) return;
    const { data, error } = await client.POST("/api/live/{live_id}/token", {
      params: { path: { live_id: this.now.id } },
    });
    this.faults = data ? [] : faultsOf(error);
    if (data) this.entrance = { address: data.address, token: data.token };
  }

  /** Say what is wrong on a bench that hides it. */
  async guess(kind: Schemas["GuessIn"]["kind"]) {
    if (!this.now) return;
    const { data, error } = await client.POST("/api/live/{live_id}/guess", {
      params: { path: { live_id: this.now.id } },
      body: { kind },
    });
    this.faults = data ? [] : faultsOf(error);
    if (data) this.now = data;
  }
}
