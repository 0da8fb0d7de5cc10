import { client, faultsOf, type Fault, type Prediction, type Schemas, type WorkloadResult } from "../api/client";
import { Place } from "../api/place";
import type { BuildDocument } from "../document/build";

const BANDS_AFTER_MS = 300;
const BAND_SAMPLES = 400;
/** the server works on other questions: central figures stand, the bands are asked for again */
const BUSY = 429;
const BUSY_AGAIN_MS = 2000;

export type Saved = "saved" | "saving" | "refused" | "stale" | "no answer";

/** What a forecast is asked for, and whether the draft in view is the one that is stored. */
export type Asking = {
  id: string;
  document: BuildDocument | null;
  sequence: number;
  workloadId: string;
  roomC: number | null;
  selected: string | null;
  /** resolves, once what is not saved yet has been sent, to how the draft in view is stored */
  settled: () => Promise<Saved>;
};

/** What is predicted of a draft: central figures at once, bands and next changes when typing pauses. */
export class Forecast {
  central = $state.raw<Prediction | null>(null);
  bands = $state.raw<Prediction | null>(null);
  bandsFresh = $state(false);
  /** next changes of figures and duties that came with the bands; none where they have to be asked for */
  changes = $state.raw<Schemas["NextChanges"] | null>(null);
  faults = $state.raw<Fault[]>([]);
  result: WorkloadResult | null = $derived(withBands(this.central, this.bands, this.bandsFresh));

  #asking: Asking;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #asked = 0;
  #place = new Place();

  constructor(asking: Asking) {
    this.#asking = asking;
  }

  /** Ask anew: central values at once, the rest when nothing more is asked for a while, the old bands pale meanwhile. */
  ask() {
    const asked = this.#begin();
    void this.#predict(0).then((answer) => {
      if (asked === this.#asked && answer) this.#take(answer.data, answer.data ? [] : faultsOf(answer.error));
    });
  }

  /** A change is on its way to the server, whose answer brings the central figures. */
  expect() {
    this.#begin();
  }

  /** The central figures that came with a saved change, or why there are none; of another question they are left. */
  came(question: Schemas["Asked"], prediction: Prediction | null, unsolved: Fault[]) {
    const { workloadId, roomC } = this.#asking;
    if (question.workload === workloadId && question.room_c === roomC) this.#take(prediction, unsolved);
  }

  /** What is asked of the draft; null while it has no workload. */
  get question(): Schemas["Asked"] | null {
    const { workloadId: workload, roomC: room_c } = this.#asking;
    return workload ? { workload, room_c } : null;
  }

  #begin(): number {
    clearTimeout(this.#timer);
    this.#place.leave();
    this.bandsFresh = false;
    const asked = ++this.#asked;
    this.#timer = setTimeout(() => void this.#rest(asked), BANDS_AFTER_MS);
    return asked;
  }

  /** Bands and next changes of the stored draft; of one that somebody else has overtaken the bands alone. */
  async #rest(asked: number) {
    const saved = await this.#asking.settled();
    if (asked !== this.#asked) return;
    if (saved === "stale") {
      const answer = await this.#predict(BAND_SAMPLES);
      if (asked === this.#asked && answer?.data) this.#takeBands(answer.data, null);
    } else if (saved === "saved") await this.#outlook(asked);
  }

  async #outlook(asked: number) {
    const { id, sequence, selected: place } = this.#asking;
    const { question } = this;
    if (!question) return;
    const answer = await this.#place.ask((as) =>
      client.POST("/api/builds/{build_id}/outlook", {
        ...as,
        params: { path: { build_id: id } },
        body: { ...question, place, samples: BAND_SAMPLES, sequence },
      }),
    );
    if (!answer || asked !== this.#asked) return;
    const { data, error, response } = answer;
    if (response.status === BUSY) this.#timer = setTimeout(() => void this.#rest(asked), BUSY_AGAIN_MS);
    else if (!data) this.faults = faultsOf(error);
    else if (data.bands && data.sequence === sequence) this.#takeBands(data.bands, data.changes);
  }

  #predict(samples: number) {
    const { document, workloadId, roomC: room_c } = this.#asking;
    if (!document || !workloadId) return Promise.resolve(null);
    const body = { document, workloads: [workloadId], room_c, samples, seed: 1 };
    if (!samples) return client.POST("/api/predict", { body });
    return this.#place.ask((as) => client.POST("/api/predict", { ...as, body }));
  }

  #takeBands(bands: Prediction, changes: Schemas["NextChanges"] | null) {
    if (faultsOfState(bands).length) return;
    this.bands = bands;
    this.changes = changes;
    this.bandsFresh = true;
  }

  #take(prediction: Prediction | null | undefined, faults: Fault[]) {
    const unlasting = faultsOfState(prediction);
    if (prediction && !unlasting.length) this.central = prediction;
    this.faults = prediction ? unlasting : faults;
  }
}

/** Why what was asked settles in no state that lasts, with the gravest of its notices as a cause; empty where it does. */
function faultsOfState(prediction: Prediction | null | undefined): Fault[] {
  return (prediction?.workloads ?? []).flatMap(({ no_state: none, notices }) => {
    if (!none) return [];
    const cause = notices.slice(1).find((notice) => notice.level === "warning");
    const what = cause ? `${none.what} (${cause.text.replace(/\.$/, "")})` : none.what;
    return [{ where: none.address, what, allowed: none.allowed }];
  });
}

/** The last answer beside a draft that is not solved: its figures stay to be seen, nothing is said of them. */
export function asUnknown(result: WorkloadResult | null): WorkloadResult | null {
  if (!result) return null;
  const because = "what is in view is not solved";
  const places = result.places.map((place) => ({ ...place, status: "unknown" as const, margin_k: null, because }));
  return { ...result, places, notices: [] };
}

/** Central figures with their bands; bands that are not fresh move along with their part. */
export function withBands(central: Prediction | null, known: Prediction | null, fresh: boolean): WorkloadResult | null {
  const now = central?.workloads[0];
  if (!now) return null;
  const bands = known?.workloads[0];
  if (!bands || bands.workload !== now.workload) return now;
  if (fresh) return bands;
  const old = Object.fromEntries(bands.places.map((place) => [place.address, place]));
  const places = now.places.map((place) => {
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
  const tightest = places.some((place) => place.address === bands.tightest) ? bands.tightest : now.tightest;
  return { ...now, tightest, places };
}
