/** What a question says of itself: the server drops an older one of the same place, the browser one that is left. */
export type AskedFrom = { headers: Record<string, string>; signal: AbortSignal };

const page = Math.random().toString(36).slice(2, 10);
let places = 0;

/** A place on this page that shows one answer at a time: a newer question there ends the one before. */
export class Place {
  #name = `${page}/${++places}`;
  #left: AbortController | undefined;

  /** The answer to a question asked from here; null where nobody waits for it any more, whenever it was left. */
  async ask<T>(question: (as: AskedFrom) => Promise<T>): Promise<T | null> {
    const as = this.asking();
    try {
      const answer = await question(as);
      return as.signal.aborted ? null : answer;
    } catch (error) {
      if (as.signal.aborted) return null;
      throw error;
    }
  }

  asking(): AskedFrom {
    this.leave();
    this.#left = new AbortController();
    return { headers: { "X-Krill-Place": this.#name }, signal: this.#left.signal };
  }

  /** Nobody waits for the answer any more. */
  leave() {
    this.#left?.abort();
    this.#left = undefined;
  }
}
