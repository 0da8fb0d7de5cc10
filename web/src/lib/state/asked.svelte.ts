import { faultsOf, type Fault } from "../api/client";
import { Place, type AskedFrom } from "../api/place";

type Answer<T> = { data?: T; error?: unknown };

/** The answer to a question about the draft, asked anew when typing pauses; an older answer never overwrites a newer. */
export class Asked<T> {
  answer = $state.raw<T | null>(null);
  faults = $state.raw<Fault[]>([]);
  busy = $state(false);
  #place = new Place();

  #take(data: T | undefined, error: unknown) {
    this.busy = false;
    this.answer = data ?? null;
    this.faults = data ? [] : faultsOf(error);
  }

  /** Ask after a pause; the returned function forgets the question (an effect's clean-up). */
  ask(question: (as: AskedFrom) => Promise<Answer<T>>, pauseMs = 200): () => void {
    let wanted = true;
    this.busy = true;
    const timer = setTimeout(async () => {
      const answer = await this.#place.ask(question);
      if (wanted && answer) this.#take(answer.data, answer.error);
    }, pauseMs);
    return () => {
      wanted = false;
      clearTimeout(timer);
      this.#place.leave();
    };
  }
}
