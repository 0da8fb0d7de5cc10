import { client, faultsOf, type Fault, type Schemas } from "../api/client";
import { iso, standing, timersOf, type Mark } from "./standing";

export type MarkKind = Schemas["MarkIn"]["kind"];
type NewMark = Schemas["MarkIn"];

const RETRY_MS = 5000;
/** others' ticks are looked for every so many tries, while the page is in view */
const LOOKS_EVERY = 2;
/** marks that the server takes at once */
const AT_ONCE = 200;

/** What is ticked, timed, read and noted beside a build: kept here at once, sent when there is a network, never lost. */
export class Marks {
  kept = $state.raw<Mark[]>([]);
  waiting = $state.raw<NewMark[]>([]);
  faults = $state.raw<Fault[]>([]);
  offline = $state(false);
  /** how far the server's clock is ahead of this one, ms */
  ahead = $state(0);
  #id = "";
  #sending = false;
  #timer: ReturnType<typeof setInterval> | undefined;

  /** The server's marks and those that wait, as if they had arrived. */
  all = $derived<Mark[]>([
    ...this.kept,
    ...this.waiting
      .filter((mark) => !this.kept.some((one) => one.key === mark.key))
      .map((mark) => ({
        ...mark,
        id: 0,
        word: mark.word ?? "",
        minutes: mark.minutes ?? null,
        at: iso(Date.parse(mark.at) + this.ahead),
        who: "",
      })),
  ]);
  standing = $derived(standing(this.all));
  timers = $derived(timersOf(this.all));

  /** Marks of a build: what this browser knows at once, then the server's. The returned function lets go. */
  open(id: string): () => void {
    this.#id = id;
    this.waiting = read<NewMark[]>(this.#queue) ?? [];
    this.kept = read<Mark[]>(this.#copy) ?? [];
    void this.send();
    let tries = 0;
    this.#timer = setInterval(() => {
      tries += 1;
      if (this.waiting.length || (!document.hidden && tries % LOOKS_EVERY === 0)) void this.send();
    }, RETRY_MS);
    const online = () => void this.send();
    window.addEventListener("online", online);
    return () => {
      clearInterval(this.#timer);
      window.removeEventListener("online", online);
    };
  }

  isDone(about: string): boolean {
    return this.standing.get(about)?.kind === "done";
  }

  /** Who read a caution first, and when; undefined of one that nobody acknowledged. */
  readBy(caution: string): Mark | undefined {
    return this.all.find((mark) => mark.kind === "read" && mark.about === caution);
  }

  add(about: string, kind: MarkKind, more: { word?: string; minutes?: number } = {}): void {
    const mark: NewMark = {
      key: newKey(),
      about,
      kind,
      at: iso(Date.now()),
      word: "",
      minutes: null,
      ...more,
    };
    this.waiting = [...this.waiting, mark];
    this.#store();
    void this.send();
  }

  /** Send what waits and take what others did; what is not acknowledged stays. */
  async send(): Promise<void> {
    if (this.#sending || !this.#id) return;
    this.#sending = true;
    const marks = this.waiting.slice(0, AT_ONCE);
    const path = { build_id: this.#id };
    const { data, error, response } = marks.length
      ? await client.POST("/api/builds/{build_id}/marks", {
          params: { path },
          body: { sent_at: iso(Date.now()), marks },
        })
      : await client.GET("/api/builds/{build_id}/marks", { params: { path } });
    this.#sending = false;
    this.offline = !data && response.status >= 500;
    this.faults = data || this.offline ? [] : faultsOf(error);
    if (!data) return;
    this.ahead = Date.parse(data.now) - Date.now();
    this.kept = data.marks;
    const arrived = marks.map((mark) => mark.key);
    this.waiting = this.waiting.filter((mark) => !arrived.includes(mark.key));
    this.#store();
    if (this.waiting.length) void this.send();
  }

  get #queue() {
    return `marks-waiting:${this.#id}`;
  }
  get #copy() {
    return `marks:${this.#id}`;
  }
  #store() {
    write(this.#queue, this.waiting);
    write(this.#copy, this.kept);
  }
}

/** One mark of a build whose marks nobody looks at now: kept like the others until the server has it. */
export function noteOf(id: string, about: string, kind: MarkKind, word: string): void {
  const marks = new Marks();
  const close = marks.open(id);
  marks.add(about, kind, { word });
  close();
}

/** A key that nobody else makes; secure contexts alone know randomUUID. */
export function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
}

export function read<T>(key: string): T | null {
  try {
    return JSON.parse(localStorage.getItem(key) ?? "null") as T | null;
  } catch {
    return null;
  }
}

export function write(key: string, value: unknown): void {
  try {
    localStorage.setItem(key, JSON.stringify(value));
  } catch {
    // a full store keeps what it has: the page still knows everything until it is closed
  }
}
