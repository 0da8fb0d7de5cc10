import {
  client,
  faultsOf,
  isGone,
  type Fault,
  type Prediction,
  type Schemas,
  type WorkloadResult,
} from "../api/client";
import { valueOf, asStored, type BuildDocument, opened } from "../document/build";
import { Trial } from "./trial.svelte";

type BuildOut = Schemas["BuildOut"];
/** What the add sheet is open for, and where what is added goes. */
export type AddWhat = { what: "part" | "source" | "path" | "chamber" | "loop"; into?: string };
export type Saved = "saved" | "saving" | "refused" | "stale" | "no answer";

const SAVE_AFTER_MS = 350;
/** a server that did not answer is tried again after this */
const TRY_AGAIN_MS = 2000;
const BANDS_AFTER_MS = 300;
const BAND_SAMPLES = 400;

/** One open build: the draft as edited here, what the server has, and what is predicted of it. */
export class BuildState {
  id = $state("");
  document = $state.raw<BuildDocument | null>(null);
  role = $state("reader");
  owner = $state("");
  sequence = $state(0);
  undoLabel = $state<string | null>(null);
  redoLabel = $state<string | null>(null);
  revision = $state<number | null>(null);
  revisionWhy = $state<string | null>(null);
  changed = $state(false);
  saved = $state<Saved>("saved");
  faults = $state.raw<Fault[]>([]);
  conflict = $state.raw<Schemas["Conflict"] | null>(null);
  loadFaults = $state.raw<Fault[]>([]);

  workloadId = $state("");
  roomC = $state<number | null>(null);
  central = $state.raw<Prediction | null>(null);
  bands = $state.raw<Prediction | null>(null);
  bandsFresh = $state(false);
  predicting = $state(false);
  selected = $state<string | null>(null);
  sheet = $state<string | null>(null);
  adding = $state<AddWhat | null>(null);
  /** kelvins that a change looked at would win, by place: drawn, not taken */
  preview = $state.raw<Record<string, number> | null>(null);
  trial = new Trial(this);

  editable = $derived(this.role !== "reader" && this.role !== "");
  workload = $derived(this.document?.workloads.find((w) => w.id === this.workloadId));
  room = $derived(this.roomC ?? valueOf(this.document?.rooms[0]?.air_c) ?? 25);
  result: WorkloadResult | null = $derived(this.#withBands());
  sourceNames: Record<string, string> = $derived(
    Object.fromEntries(this.document?.parts.map((part) => [part.id, part.name || part.id]) ?? []),
  );

  #saveTimer: ReturnType<typeof setTimeout> | undefined;
  #bandTimer: ReturnType<typeof setTimeout> | undefined;
  #saving: Promise<void> = Promise.resolve();
  /** keys of the document as the server sent it */
  #stated: string[] = [];
  #pending: { label: string } | null = null;
  #asked = 0;

  async open(id: string) {
    const { data, error } = await client.GET("/api/builds/{build_id}", { params: { path: { build_id: id } } });
    if (!data) {
      this.loadFaults = faultsOf(error);
      return;
    }
    this.#take(data);
    const worst = this.document?.brief?.worst_workloads?.[0];
    this.workloadId = worst ?? this.document?.workloads[0]?.id ?? "";
    this.predict();
  }

  /** Change the draft: the copy is edited, predicted at once and saved shortly after. */
  edit(label: string, change: (draft: BuildDocument) => void) {
    if (!this.document || !this.editable) return;
    const draft = structuredClone(this.document);
    change(draft);
    this.document = draft;
    this.#pending = { label };
    this.saved = "saving";
    this.predict();
    this.#saveIn(SAVE_AFTER_MS);
  }

  #saveIn(ms: number) {
    clearTimeout(this.#saveTimer);
    this.#saveTimer = setTimeout(() => void this.flush(), ms);
  }

  /** Save what is not saved yet; resolves when the server has answered. */
  flush(): Promise<void> {
    clearTimeout(this.#saveTimer);
    this.#saving = this.#saving.then(() => this.#save());
    return this.#saving;
  }

  async #save() {
    if (!this.#pending || !this.document) return;
    const { label } = this.#pending;
    const document = asStored(this.document, this.#stated);
    this.#pending = null;
    const { data, error, response } = await client.PUT("/api/builds/{build_id}/draft", {
      params: { path: { build_id: this.id } },
      body: { base: this.sequence, document, label },
    });
    if (data) {
      this.#meta(data);
      this.saved = this.#pending ? "saving" : "saved";
      this.faults = [];
    } else if (response.status === 409) {
      this.conflict = error as unknown as Schemas["Conflict"];
      this.saved = "stale";
    } else {
      this.faults = faultsOf(error);
      this.#pending ??= { label };
      this.saved = isGone(response) ? "no answer" : "refused";
      if (isGone(response)) this.#saveIn(TRY_AGAIN_MS);
    }
  }

  async step(direction: "undo" | "redo") {
    await this.flush();
    const path = direction === "undo" ? "/api/builds/{build_id}/undo" : "/api/builds/{build_id}/redo";
    const { data, error, response } = await client.POST(path, {
      params: { path: { build_id: this.id } },
      body: { base: this.sequence },
    });
    if (data) this.#take(data);
    else if (response.status === 409) this.conflict = error as unknown as Schemas["Conflict"];
    this.predict();
  }

  /** Settle a stale save: take what is stored, or put one's own version on top of it. */
  async resolve(choice: "theirs" | "mine") {
    const conflict = this.conflict;
    this.conflict = null;
    if (!conflict) return;
    const mine = this.document;
    this.#take(conflict.stored);
    if (choice === "mine" && mine) this.edit("my version on top of theirs", (draft) => Object.assign(draft, mine));
    else this.predict();
  }

  async keepRevision(why: string): Promise<Fault[]> {
    await this.flush();
    const { data, error } = await client.POST("/api/builds/{build_id}/revisions", {
      params: { path: { build_id: this.id } },
      body: { why },
    });
    if (!data) return faultsOf(error);
    this.revision = data.number;
    this.revisionWhy = data.why;
    this.changed = false;
    return [];
  }

  choose(workload: string) {
    this.workloadId = workload;
    this.trial.leave();
    this.predict();
  }

  shift(by: 1 | -1) {
    const all = this.document?.workloads ?? [];
    const at = all.findIndex((w) => w.id === this.workloadId);
    const next = all[(at + by + all.length) % all.length];
    if (next) this.choose(next.id);
  }

  setRoom(value: number | null) {
    this.roomC = value;
    this.predict();
  }

  /** Central values at once; bands when typing pauses, the old ones pale meanwhile. */
  predict() {
    clearTimeout(this.#bandTimer);
    this.bandsFresh = false;
    const asked = ++this.#asked;
    void this.#ask(0, asked).then((prediction) => {
      if (prediction) this.central = prediction;
    });
    this.#bandTimer = setTimeout(() => {
      void this.#ask(BAND_SAMPLES, asked).then((prediction) => {
        if (!prediction) return;
        this.bands = prediction;
        this.bandsFresh = true;
      });
    }, BANDS_AFTER_MS);
  }

  async #ask(samples: number, asked: number): Promise<Prediction | null> {
    if (!this.document || !this.workloadId) return null;
    this.predicting = true;
    const { data, error } = await client.POST("/api/predict", {
      body: { document: this.document, workloads: [this.workloadId], room_c: this.roomC, samples, seed: 1 },
    });
    if (asked !== this.#asked) return null;
    this.predicting = false;
    if (data) {
      if (this.saved !== "refused") this.faults = [];
      return data;
    }
    this.faults = faultsOf(error);
    return null;
  }

  #withBands(): WorkloadResult | null {
    const central = this.central?.workloads[0];
    if (!central) return null;
    const bands = this.bands?.workloads[0];
    if (!bands || bands.workload !== central.workload) return central;
    if (this.bandsFresh) return bands;
    const old = Object.fromEntries(bands.places.map((place) => [place.address, place]));
    const places = central.places.map((place) => {
      const before = old[place.address];
      if (!before?.band_c) return place;
      const shift = place.temperature_c - before.temperature_c;
      const margin = before.margin_band_k;
      return {
        ...place,
        status: before.status,
        band_c: { low: before.band_c.low + shift, high: before.band_c.high + shift },
        margin_band_k: margin ? { low: margin.low - shift, high: margin.high - shift } : null,
      };
    });
    // which place is the tightest is told by the bands, so it does not jump while they are pale
    const tightest = places.some((place) => place.address === bands.tightest) ? bands.tightest : central.tightest;
    return { ...central, tightest, places };
  }

  /** What the server made of the draft by itself: shown and predicted. */
  take(data: BuildOut) {
    this.#take(data);
    this.predict();
  }

  #take(data: BuildOut) {
    this.document = opened(data.document);
    this.#stated = Object.keys(data.document);
    this.faults = [];
    this.saved = "saved";
    this.#pending = null;
    this.#meta(data);
  }

  #meta(data: BuildOut) {
    this.id = data.id;
    this.role = data.role;
    this.owner = data.owner;
    this.sequence = data.sequence;
    this.undoLabel = data.undo;
    this.redoLabel = data.redo;
    this.revision = data.revision;
    this.revisionWhy = data.revision_why;
    this.changed = data.changed;
  }
}
