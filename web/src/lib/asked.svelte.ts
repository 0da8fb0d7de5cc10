import { faultsOf, type Fault } from "./api/client";

type Answer<T> = { data?: T; error?: unknown };

/** The answer to a question about the draft, asked anew when typing pauses; an older answer never overwrites a newer. */
export class Asked<T> {
  answer = $state.raw<T | null>(null);
  faults = $state.raw<Fault[]>([]);
  busy = $state(false);

  /** Ask after a pause; the returned function forgets the question (an effect's clean-up). */
  ask(question: () => Promise<Answer<T>>, pauseMs = 200): () => void {
    let wanted = true;
    this.busy = true;
    const timer = setTimeout(async () => {
      const { data, error } = await question();
      if (!wanted) return;
      this.busy = false;
      this.answer = data ?? null;
      this.faults = data ? [] : faultsOf(error);
    }, pauseMs);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }
}
