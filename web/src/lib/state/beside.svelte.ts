import type { BuildDocument } from "../document/build";

/** What stands side by side: the draft, a revision of any build, a copy of a trial or candidate, a ready-made one. */
export type Entry =
  | { kind: "draft"; build: string; name: string }
  | { kind: "revision"; build: string; number: number; name: string }
  | { kind: "copy"; label: string; document: BuildDocument }
  | { kind: "ready"; id: string };

export const MOST_BESIDE = 5;

/** Options side by side, kept for each build in this browser. */
class Beside {
  entries = $state.raw<Entry[]>([]);
  #build = "";

  open(build: string, name: string) {
    if (this.#build === build) return;
    this.#build = build;
    let kept: Entry[] = [];
    try {
      kept = JSON.parse(localStorage.getItem(this.#key) ?? "[]") as Entry[];
    } catch {
      localStorage.removeItem(this.#key);
    }
    this.entries = kept.length ? kept : [{ kind: "draft", build, name }];
  }

  get #key() {
    return `beside-${this.#build}`;
  }

  get full() {
    return this.entries.length >= MOST_BESIDE;
  }

  put(entry: Entry) {
    if (!this.full) this.#keep([...this.entries, entry]);
  }

  /** A copy of a document under a name; the page of the build is opened first. */
  add(build: string, copy: { label: string; document: BuildDocument }) {
    this.open(build, copy.document.name);
    this.put({ kind: "copy", ...copy });
  }

  remove(at: number) {
    this.#keep(this.entries.filter((_, i) => i !== at));
  }

  #keep(entries: Entry[]) {
    this.entries = entries;
    try {
      localStorage.setItem(this.#key, JSON.stringify(entries));
    } catch {
      // a full store forgets copies at the next visit; what is on the page stays
    }
  }
}

export const beside = new Beside();
