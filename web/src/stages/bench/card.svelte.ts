import type { Schemas } from "$lib/api/client";
import type { Reading } from "./readings";

export type LoadWindow = Schemas["LoadWindow"];
type Kept = { workload: string | null; started: number | null; readings: Reading[]; windows: LoadWindow[] };
const NOTHING: Kept = { workload: null, started: null, readings: [], windows: [] };

/** The card of a test beside the machine: which load is on since when, and what was read in each. It survives a reload. */
export class Card {
  kept = $state.raw<Kept>(NOTHING);
  #key = "";

  open(buildId: string) {
    this.#key = `test-card:${buildId}`;
    try {
      this.kept = { ...NOTHING, ...(JSON.parse(localStorage.getItem(this.#key) ?? "{}") as Partial<Kept>) };
    } catch {
      this.kept = NOTHING; // what another version wrote there
    }
  }

  #write(kept: Kept) {
    this.kept = kept;
    localStorage.setItem(this.#key, JSON.stringify(kept));
  }

  get started() {
    return this.kept.started;
  }

  /** Minutes since the load came on, to a tenth; 0 before it. */
  minute(now: number): number {
    return this.kept.started === null ? 0 : Math.round((now - this.kept.started) / 6000) / 10;
  }

  loadOn(workload: string, now: number) {
    this.#write({ ...this.#withWindow(workload), workload, started: now });
  }

  loadOff() {
    this.#write({ ...this.kept, started: null });
  }

  /** Put aside what was read of a load; every reading names its window, so that several loads are one run. */
  add(workload: string, readings: Reading[]) {
    const next = this.#withWindow(workload);
    this.#write({ ...next, readings: [...next.readings, ...readings.map((one) => ({ ...one, window: workload }))] });
  }

  /** Windows that something was read in. */
  get windows(): LoadWindow[] {
    return this.kept.windows.filter((window) => this.kept.readings.some((one) => one.window === window.id));
  }

  clear() {
    this.#write({ ...NOTHING, workload: this.kept.workload, started: this.kept.started });
  }

  #withWindow(workload: string): Kept {
    const known = this.kept.windows.some((window) => window.id === workload);
    const windows = known ? this.kept.windows : [...this.kept.windows, { id: workload, workload } as LoadWindow];
    return { ...this.kept, windows };
  }
}
