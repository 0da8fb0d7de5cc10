import { faultsOf, type Fault } from "../api/client";
import { Place, type Asking } from "../api/place";

type Answer<T> = { data?: T; error?: unknown };

/** The answer to a question about the draft, asked anew when typing pauses; an older answer never overwrites a newer. */
export class Asked<T> {
  answer = $state.raw<T | null>(null);
  faults = $state.raw<Fault[]>([]);
  busy = $state(false);
  #place = new Place();

  /** Ask at once; whoever waits has the answer. */
  async now(question: (as: Asking) => Promise<Answer<T>>): Promise<void> {
    const { data, error } = await question(this.#place.asking());
    this.#take(data, error);
  }

  #take(data: T | undefined, error: unknown) {
    this.busy = false;
    this.answer = data ?? null;
    this.faults = data ? [] : faultsOf(error);
  }

  /** Ask after a pause; the returned function forgets the question (an effect's clean-up). */
  ask(question: (as: Asking) => Promise<Answer<T>>, pauseMs = 200): () => void {
    let wanted = true;
    this.busy = true;
    const timer = setTimeout(async () => {
      const { data, error } = await question(this.#place.asking());
      if (!wanted) return;
      this.#take(data, error);
    }, pauseMs);
    return () => {
      wanted = false;
      clearTimeout(timer);
      this.#place.leave();
    };
  }
}
