import { client, faultsOf, type Fault, type Schemas } from "../api/client";
import type { BuildState } from "./build.svelte";
import { isDuty } from "../document/addresses";
import { questionOf, type AskedAxis, type Axis, type Criterion, type Demands } from "../document/vary";

export type StudyOut = Schemas["StudyOut"];
export type Result = Schemas["StudyResult"];
export type Detail = Schemas["CandidateDetail"];
export type Pick = "smallest" | "quietest" | "coolest" | "cheapest";

const ASK_AGAIN_MS = 400;

/** Studies of one build: what is asked, how far it is, what came of it, which candidates are looked at. */
export class Studies {
  list = $state.raw<StudyOut[]>([]);
  current = $state.raw<StudyOut | null>(null);
  result = $state.raw<Result | null>(null);
  detail = $state.raw<Detail | null>(null);
  second = $state.raw<Detail | null>(null);
  faults = $state.raw<Fault[]>([]);
  asking = $state(false);
  chosen = $state<number | null>(null);
  #build: BuildState;
  #timer: ReturnType<typeof setTimeout> | undefined;

  open = $derived(this.current?.state === "waiting" || this.current?.state === "running");

  constructor(build: BuildState) {
    this.#build = build;
  }

  async load() {
    const { data, error } = await client.GET("/api/builds/{build_id}/studies", {
      params: { path: { build_id: this.#build.id } },
    });
    this.list = data ?? [];
    if (!data) this.faults = faultsOf(error);
    else if (!this.current && data[0]) await this.look(data[0]);
  }

  async ask(axes: AskedAxis[], demands: Demands, criteria: Criterion[], name: string) {
    this.asking = true;
    await this.#build.flush();
    const { data, error } = await client.POST("/api/builds/{build_id}/studies", {
      params: { path: { build_id: this.#build.id } },
      body: { name, question: questionOf(axes, demands, this.#build.roomC, criteria), document: null },
    });
    this.asking = false;
    this.faults = data ? [] : faultsOf(error);
    if (!data) return;
    this.list = [data, ...this.list];
    await this.look(data);
  }

  /** Turn to a study; one that is under way is asked after until it is over. */
  async look(study: StudyOut) {
    clearTimeout(this.#timer);
    if (study.id !== this.current?.id) this.#forget();
    this.current = study;
    await this.#follow();
  }

  async #follow() {
    const study = this.current;
    if (!study) return;
    if (study.state === "done") {
      await this.#results(study);
      return;
    }
    if (!this.open) return;
    this.#timer = setTimeout(async () => {
      const { data } = await client.GET("/api/studies/{study_id}", { params: { path: { study_id: study.id } } });
      if (this.current?.id !== study.id) return;
      if (data) this.#renew(data);
      await this.#follow();
    }, ASK_AGAIN_MS);
  }

  #renew(study: StudyOut) {
    this.current = study;
    this.list = this.list.map((item) => (item.id === study.id ? study : item));
  }

  async #results(study: StudyOut) {
    if (this.result) return;
    const { data, error } = await client.GET("/api/studies/{study_id}/result", {
      params: { path: { study_id: study.id } },
    });
    if (this.current?.id !== study.id) return;
    this.result = data ?? null;
    this.faults = data ? [] : faultsOf(error);
    const first = this.picked("smallest") ?? data?.closest ?? null;
    if (first !== null) await this.choose(first);
  }

  #forget() {
    this.result = null;
    this.detail = null;
    this.second = null;
    this.chosen = null;
    this.faults = [];
  }

  stop() {
    clearTimeout(this.#timer);
  }

  async cancel() {
    if (!this.current) return;
    const { data, error } = await client.POST("/api/studies/{study_id}/cancel", {
      params: { path: { study_id: this.current.id } },
    });
    if (data) this.#renew(data);
    else this.faults = faultsOf(error);
  }

  async remove(study: StudyOut) {
    await client.DELETE("/api/studies/{study_id}", { params: { path: { study_id: study.id } } });
    this.list = this.list.filter((item) => item.id !== study.id);
    if (this.current?.id !== study.id) return;
    this.stop();
    this.#forget();
    this.current = null;
    if (this.list[0]) await this.look(this.list[0]);
  }

  async choose(number: number) {
    this.chosen = number;
    const found = await this.#detail(number);
    if (this.chosen === number && found) this.detail = found;
  }

  async beside(number: number | null) {
    this.second = number === null ? null : await this.#detail(number);
  }

  async #detail(number: number): Promise<Detail | null> {
    if (!this.current) return null;
    const { data, error } = await client.GET("/api/studies/{study_id}/candidates/{number}", {
      params: { path: { study_id: this.current.id, number } },
    });
    if (!data) this.faults = faultsOf(error);
    return data ?? null;
  }

  async document(number: number): Promise<Record<string, unknown> | null> {
    if (!this.current) return null;
    const { data } = await client.GET("/api/studies/{study_id}/candidates/{number}/document", {
      params: { path: { study_id: this.current.id, number } },
    });
    return data ?? null;
  }

  /** A candidate becomes the draft and a revision with its reason. */
  async take(number: number, why: string): Promise<boolean> {
    if (!this.current) return false;
    await this.#build.flush();
    const { data, error, response } = await client.POST("/api/studies/{study_id}/candidates/{number}/take", {
      params: { path: { study_id: this.current.id, number } },
      body: { base: this.#build.sequence, why },
    });
    if (data) {
      this.#build.take(data);
      this.faults = [];
      await this.load();
    } else if (response.status === 409) {
      this.#build.learn((error as unknown as Schemas["Conflict"]).stored);
      this.faults = [
        { where: "", what: "the build was changed elsewhere", allowed: "take it again on what is in view now" },
      ];
    } else this.faults = faultsOf(error);
    return Boolean(data);
  }

  /** Numbers of the options that a candidate takes, axis by axis. */
  optionsOf(number: number): number[] {
    const shape = this.axes.map((axis) => axis.options.length);
    const found: number[] = [];
    for (const count of shape.toReversed()) {
      found.unshift(number % count);
      number = Math.floor(number / count);
    }
    return found;
  }

  axes: Axis[] = $derived((this.current?.question["vary"] as Axis[] | undefined) ?? []);

  /** Of those that meet every demand: the smallest sizes, the quietest, the coolest, the cheapest. */
  picked(pick: Pick): number | null {
    const result = this.result;
    if (!result?.meets.length) return null;
    const of = (name: string, number: number) => result.columns[name]?.[number] ?? Infinity;
    const sizes = this.axes.map((axis, i) => (isDuty(axis.address) ? -1 : i)).filter((i) => i >= 0);
    const rank: Record<Pick, (number: number) => number[]> = {
      smallest: (n) => {
        const options = this.optionsOf(n);
        return [sizes.reduce((sum, i) => sum + options[i]!, 0), of("level_dba", n), -of("margin_k", n)];
      },
      quietest: (n) => [Math.round(10 * of("level_dba", n)), -of("margin_k", n)],
      coolest: (n) => [-Math.round(10 * of("margin_k", n)), of("level_dba", n)],
      cheapest: (n) => [of("price", n), of("level_dba", n)],
    };
    const ranked = result.meets.map((n) => [n, rank[pick](n)] as const);
    return ranked.reduce((best, next) => (before(next[1], best[1]) ? next : best))[0];
  }
}

/** Whether a list of numbers stands before another one, number by number. */
function before(a: number[], b: number[]): boolean {
  for (const [i, value] of a.entries()) if (value !== b[i]) return value < b[i]!;
  return false;
}
