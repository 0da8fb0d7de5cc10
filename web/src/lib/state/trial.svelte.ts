import { client, faultsOf, type Fault, type Schemas } from "../api/client";
import { opened, replaceBy, type BuildDocument } from "../document/build";
import { noteOf } from "./marks.svelte";

/** what marks of trials are about, and how long a word may be */
const TRIAL = "a trial";
const WORD_MOST = 500;
type Comparison = Schemas["Comparison"];
type Build = {
  id: string;
  document: BuildDocument | null;
  workloadId: string;
  roomC: number | null;
  editable: boolean;
  edit: (label: string, change: (draft: BuildDocument) => void) => void;
};

/** A change that is looked at before it is taken: the build as it stands beside the build with the change. */
export class Trial {
  label = $state("");
  document = $state.raw<BuildDocument | null>(null);
  comparison = $state.raw<Comparison | null>(null);
  faults = $state.raw<Fault[]>([]);
  /** where the user's figure of what it costs stands among the prices of the build; empty where nothing is bought */
  priceKey = $state("");
  #build: Build;
  #asked = 0;

  constructor(build: Build) {
    this.#build = build;
  }

  /** Work a change out on a copy and compare every part. */
  async propose(label: string, change: (draft: BuildDocument) => void, priceKey = "") {
    const first = this.#build.document;
    if (!first) return;
    const second = structuredClone(first);
    change(second);
    await this.#compare(this.#begin(label, priceKey), first, second);
  }

  /** Edits as an answer states them, made by whoever stated them; then every part compared. */
  async proposeEdits(label: string, edits: Schemas["Edit"][], priceKey = "") {
    const first = this.#build.document;
    if (!first) return;
    const asked = this.#begin(label, priceKey);
    const { data, error } = await client.POST("/api/edited", { body: { document: first, edits } });
    if (asked !== this.#asked) return;
    if (data) await this.#compare(asked, first, opened(data));
    else {
      this.document = first;
      this.faults = faultsOf(error);
    }
  }

  #begin(label: string, priceKey: string): number {
    this.label = label;
    this.priceKey = priceKey;
    this.comparison = null;
    this.faults = [];
    return ++this.#asked;
  }

  async #compare(asked: number, first: BuildDocument, second: BuildDocument) {
    this.document = second;
    const { data, error } = await client.POST("/api/compare", {
      body: { first, second, workload: this.#build.workloadId, room_c: this.#build.roomC, samples: 100 },
    });
    if (asked !== this.#asked) return;
    if (data) this.comparison = data;
    else this.faults = faultsOf(error);
  }

  /** A price that was typed while the trial is in view goes with it. */
  price(key: string, value: number) {
    if (!this.document) return;
    this.document = { ...this.document, prices: { ...this.document.prices, [key]: value } };
  }

  take() {
    const taken = this.document;
    if (!taken || !this.comparison || !this.#build.editable) return;
    this.#build.edit(this.label, (draft) => replaceBy(draft, taken));
    this.leave();
  }

  /** Looked at and not wanted: the logbook keeps what it would have done. */
  discard() {
    if (this.comparison && this.#build.editable)
      noteOf(
        this.#build.id,
        TRIAL,
        "tried",
        `${this.label}, not kept. ${this.comparison.sentence}`.slice(0, WORD_MOST),
      );
    this.leave();
  }

  leave() {
    this.#asked += 1;
    this.document = null;
    this.comparison = null;
    this.faults = [];
  }
}
