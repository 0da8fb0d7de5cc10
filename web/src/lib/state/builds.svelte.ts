import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";

export type BuildCard = Schemas["BuildCard"];
type Card = Schemas["Card"];
type LastRun = Schemas["LastRun"];

/** The builds that somebody sees: how each stands, and what is done with a whole one. */
export class BuildsState {
  builds = $state.raw<BuildCard[] | null>(null);
  faults = $state.raw<Fault[]>([]);
  cards = $state<Record<string, Card>>({});
  runs = $state<Record<string, LastRun | null>>({});
  found = $state.raw<string[] | null>(null);
  /** the build that was deleted last, until something else is done */
  deleted = $state.raw<BuildCard | null>(null);
  #left = new AbortController();
  text = $state("");
  archive = $state(false);

  readonly archived = $derived((this.builds ?? []).filter((build) => build.archived).length);
  readonly shown = $derived(
    (this.builds ?? []).filter(
      (build) => build.archived === this.archive && (this.found === null || this.found.includes(build.id)),
    ),
  );

  async load(): Promise<void> {
    const { data, error } = await client.GET("/api/builds");
    this.builds = data ?? [];
    this.faults = error ? faultsOf(error) : [];
    for (const build of this.builds) if (build.card) this.cards[build.id] = build.card;
    try {
      for (const build of this.builds) await this.#tell(build);
    } catch (error) {
      // what was let go ends in an error of its own
      if (!this.#left.signal.aborted) throw error;
    }
  }

  /** Nobody looks any more: what is still being asked is let go. */
  leave(): void {
    this.#left.abort();
  }

  /** One build after the other: the first lines are there while the last ones are being computed. */
  async #tell(build: BuildCard): Promise<void> {
    const params = { params: { path: { build_id: build.id } }, signal: this.#left.signal };
    if (!build.card) {
      const { data } = await client.GET("/api/builds/{build_id}/card", params);
      if (data) this.cards[build.id] = data;
    }
    if (build.id in this.runs) return;
    const { data } = await client.GET("/api/builds/{build_id}/last-run", params);
    this.runs[build.id] = data ?? null;
  }

  async find(text: string): Promise<void> {
    this.text = text;
    if (!text.trim()) {
      this.found = null;
      return;
    }
    const { data } = await client.GET("/api/find", { params: { query: { text: text.trim() } } });
    if (text === this.text) this.found = data ?? [];
  }

  async copy(build: BuildCard): Promise<string | null> {
    const { data, error } = await client.POST("/api/builds/{build_id}/copy", {
      params: { path: { build_id: build.id } },
      body: { name: `Copy of ${build.name}`.slice(0, 120) },
    });
    await this.#after(error);
    return data?.id ?? null;
  }

  async rename(build: BuildCard, name: string): Promise<void> {
    const { error } = await client.PUT("/api/builds/{build_id}/name", {
      params: { path: { build_id: build.id } },
      body: { name },
    });
    await this.#after(error);
  }

  async setArchived(build: BuildCard, archived: boolean): Promise<void> {
    const { error } = await client.PUT("/api/builds/{build_id}/archived", {
      params: { path: { build_id: build.id } },
      body: { archived },
    });
    await this.#after(error);
  }

  async remove(build: BuildCard): Promise<void> {
    const { error } = await client.DELETE("/api/builds/{build_id}", { params: { path: { build_id: build.id } } });
    await this.#after(error);
    if (!error) this.deleted = build;
  }

  async restore(): Promise<void> {
    if (!this.deleted) return;
    const { error } = await client.POST("/api/builds/{build_id}/restore", {
      params: { path: { build_id: this.deleted.id } },
    });
    await this.#after(error);
  }

  async #after(error: unknown): Promise<void> {
    this.deleted = null;
    await this.load();
    if (error) this.faults = faultsOf(error);
  }
}
