import { compare } from "fast-json-patch";
import { client, faultsOf, isGone, type Fault, type Schemas } from "../api/client";
import { valueOf, asStored, type BuildDocument, opened, placeOf, replaceBy } from "../document/build";
import { mergeDocuments } from "../document/merge";
import { asUnknown, Forecast, type Saved } from "./forecast.svelte";
import { Trial } from "./trial.svelte";

type BuildOut = Schemas["BuildOut"];
/** What the add sheet is open for, and where what is added goes. */
export type AddWhat = { what: "part" | "source" | "path" | "chamber" | "loop" | "assembly"; into?: string };

/** What somebody else stored meanwhile, and the paths that both changed otherwise. */
export type Conflict = { stored: BuildOut; clashes: string[] };

/** changes that follow each other within this are typing: one step to undo */
const TYPING_MS = 350;
/** a server that did not answer is tried again after this */
const TRY_AGAIN_MS = 2000;

/** One open build: the draft as edited here, what the server has, and what is predicted of it. */
export class BuildState {
  id = $state("");
  document = $state.raw<BuildDocument | null>(null);
  role = $state("reader");
  /** read and copied by everybody, changed by nobody */
  template = $state(false);
  owner = $state("");
  sequence = $state(0);
  undoLabel = $state<string | null>(null);
  redoLabel = $state<string | null>(null);
  revision = $state<number | null>(null);
  revisionWhy = $state<string | null>(null);
  changed = $state(false);
  saved = $state<Saved>("saved");
  /** why what is in view could not be saved */
  refused = $state.raw<Fault[]>([]);
  conflict = $state.raw<Conflict | null>(null);
  /** what was changed elsewhere and is in view now */
  news = $state<string | null>(null);
  loadFaults = $state.raw<Fault[]>([]);

  workloadId = $state("");
  roomC = $state<number | null>(null);
  selected = $state<string | null>(null);
  sheet = $state<string | null>(null);
  /** what a verdict asks to be read in the next run, by role */
  readNext = $state.raw<string[]>([]);
  adding = $state<AddWhat | null>(null);
  /** kelvins that a change looked at would win, by place: drawn, not taken */
  preview = $state.raw<Record<string, number> | null>(null);
  trial = new Trial(this);
  forecast = new Forecast(this);

  editable = $derived(this.role !== "reader" && this.role !== "" && !this.template);
  workload = $derived(this.document?.workloads.find((w) => w.id === this.workloadId));
  room = $derived(this.roomC ?? valueOf(this.document?.rooms[0]?.air_c) ?? 25);
  /** why what is in view cannot be solved */
  unsolved: Fault[] = $derived(this.forecast.faults);
  /** whether the draft in view is another than the one that was solved last, and is not solved */
  unknown = $derived(this.refused.length > 0 || this.unsolved.length > 0);
  result = $derived(this.unknown ? asUnknown(this.forecast.result) : this.forecast.result);
  bandsFresh = $derived(this.forecast.bandsFresh);
  sourceNames: Record<string, string> = $derived(
    Object.fromEntries(this.document?.parts.map((part) => [part.id, part.name || part.id]) ?? []),
  );

  #retry: ReturnType<typeof setTimeout> | undefined;
  #saving: Promise<void> = Promise.resolve();
  /** the document as the server has it */
  #stored: Schemas["BuildOut"]["document"] | null = null;
  #pending: { label: string; merge: boolean } | null = null;
  #editedAt = -Infinity;
  #edited = "";

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

  /** Change the draft: the copy is edited and the change sent, whose answer is what it predicts. */
  edit(label: string, change: (draft: BuildDocument) => void) {
    if (!this.document || !this.editable) return;
    const draft = structuredClone(this.document);
    change(draft);
    this.document = draft;
    if (this.selected && !placeOf(draft, this.selected)) this.selected = null;
    const typing = Date.now() - this.#editedAt < TYPING_MS && subjectOf(label) === subjectOf(this.#edited);
    this.#editedAt = Date.now();
    this.#edited = label;
    this.#pending = { label, merge: this.#pending ? this.#pending.merge : typing };
    this.saved = "saving";
    this.forecast.expect();
    void this.flush();
  }

  /** Save what is not saved yet; resolves when the server has answered. */
  flush(): Promise<void> {
    clearTimeout(this.#retry);
    this.#saving = this.#saving.then(() => this.#save());
    return this.#saving;
  }

  async settled(): Promise<Saved> {
    if (this.saved === "saving") await this.flush();
    return this.saved;
  }

  async #save() {
    if (!this.#pending || !this.document || !this.#stored) return;
    const { label, merge } = this.#pending;
    const asked = this.forecast.question;
    const sent = asStored(this.document, Object.keys(this.#stored));
    this.#pending = null;
    const { data, error, response } = await client.PATCH("/api/builds/{build_id}/draft", {
      params: { path: { build_id: this.id } },
      body: { base: this.sequence, patch: patchOf(this.#stored, sent), label, merge, asked },
    });
    if (data) {
      this.#stored = data.document ?? sent;
      if (data.document && !this.#pending) this.document = opened(data.document);
      this.#meta(data);
      this.saved = this.#pending ? "saving" : "saved";
      this.refused = [];
      if (asked) this.forecast.came(asked, data.prediction, data.unsolved);
    } else if (response.status === 409) {
      this.#overtaken((error as unknown as Schemas["Conflict"]).stored, label);
    } else {
      this.refused = faultsOf(error);
      this.#pending ??= { label, merge };
      this.saved = isGone(response) ? "no answer" : "refused";
      if (isGone(response)) this.#retry = setTimeout(() => void this.flush(), TRY_AGAIN_MS);
    }
  }

  /** Undo or redo, one after the other however fast they are asked for. */
  step(direction: "undo" | "redo"): Promise<void> {
    void this.flush();
    this.#saving = this.#saving.then(() => this.#step(direction));
    return this.#saving;
  }

  async #step(direction: "undo" | "redo") {
    if (!(direction === "undo" ? this.undoLabel : this.redoLabel)) return;
    const path = direction === "undo" ? "/api/builds/{build_id}/undo" : "/api/builds/{build_id}/redo";
    const { data, error, response } = await client.POST(path, {
      params: { path: { build_id: this.id } },
      body: { base: this.sequence },
    });
    if (data) this.take(data);
    else if (response.status === 409) this.learn((error as unknown as Schemas["Conflict"]).stored);
    else this.predict();
  }

  /** Settle what both changed otherwise by one of the two; what only one of them changed stands in any case. */
  resolve(choice: "theirs" | "mine") {
    const { conflict } = this;
    if (!conflict || !this.document || !this.#stored) return;
    const theirs = opened(conflict.stored.document);
    const [first, second] = choice === "mine" ? [this.document, theirs] : [theirs, this.document];
    const { document } = mergeDocuments(opened(this.#stored), first, second);
    this.learn(conflict.stored);
    this.edit("changes of both", (draft) => replaceBy(draft, document));
  }

  /** Take what was stored elsewhere, where nothing is under way here. */
  async catchUp() {
    const { data } = await client.GET("/api/builds/{build_id}", { params: { path: { build_id: this.id } } });
    if (!data || data.id !== this.id || data.sequence <= this.sequence || this.saved !== "saved") return;
    this.learn(data);
  }

  /** A save that somebody was ahead of: where they touched nothing that I did both stand, else the person is asked. */
  #overtaken(theirs: BuildOut, label: string) {
    const base = opened(this.#stored!);
    const { document, clashes } = mergeDocuments(base, this.document!, opened(theirs.document));
    if (clashes.length) {
      this.conflict = { stored: theirs, clashes };
      this.saved = "stale";
    } else {
      this.learn(theirs);
      this.edit(label, (draft) => replaceBy(draft, document));
    }
  }

  /** What was stored elsewhere comes into view, and is told. */
  learn(theirs: BuildOut) {
    this.conflict = null;
    this.news = theirs.undo;
    this.take(theirs);
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

  predict() {
    this.forecast.ask();
  }

  /** What the server made of the draft by itself: shown and predicted. */
  take(data: BuildOut) {
    this.#take(data);
    this.predict();
  }

  #take(data: BuildOut) {
    this.document = opened(data.document);
    this.#stored = data.document;
    this.refused = [];
    this.saved = "saved";
    this.#pending = null;
    this.#meta(data);
  }

  #meta(data: Omit<BuildOut, "document">) {
    this.id = data.id;
    this.role = data.role;
    this.template = data.template;
    this.owner = data.owner;
    this.sequence = data.sequence;
    this.undoLabel = data.undo;
    this.redoLabel = data.redo;
    this.revision = data.revision;
    this.revisionWhy = data.revision_why;
    this.changed = data.changed;
  }
}

/** What a step is about, whatever figure was typed: only steps about the same thing are one to undo. */
const subjectOf = (label: string) => label.replace(/[-\d.,]+\s*\S*$/, "");

/** What makes one document of another, as JSON sees them: RFC 6902. */
function patchOf(before: object, after: object): Record<string, unknown>[] {
  return compare(before, JSON.parse(JSON.stringify(after)) as object) as unknown as Record<string, unknown>[];
}
