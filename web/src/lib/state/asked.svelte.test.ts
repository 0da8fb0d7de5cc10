import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Asked } from "./asked.svelte";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const later = <T>(value: T, ms: number) =>
  new Promise<{ data: T }>((resolve) => setTimeout(() => resolve({ data: value }), ms));

describe("a question about the draft", () => {
  it("is put once typing pauses, not at every key", async () => {
    const asked = new Asked<number>();
    const put = vi.fn(() => later(7, 10));
    for (let key = 0; key < 5; key += 1) {
      const forget = asked.ask(put, 200);
      await vi.advanceTimersByTimeAsync(50);
      if (key < 4) forget();
    }
    expect(put).not.toHaveBeenCalled();
    expect(asked.busy).toBe(true);
    await vi.advanceTimersByTimeAsync(300);
    expect(put).toHaveBeenCalledTimes(1);
    expect(asked.answer).toBe(7);
    expect(asked.busy).toBe(false);
  });

  it("keeps its newer answer when an older one comes late", async () => {
    const asked = new Asked<string>();
    const forget = asked.ask(() => later("old", 500), 0);
    await vi.advanceTimersByTimeAsync(1);
    forget();
    asked.ask(() => later("new", 10), 0);
    await vi.advanceTimersByTimeAsync(1000);
    expect(asked.answer).toBe("new");
  });

  it("shows the last answer until the next is there, and faults instead of one", async () => {
    const asked = new Asked<number>();
    asked.ask(() => later(1, 0), 0);
    await vi.advanceTimersByTimeAsync(5);
    const fault = { where: "fan", what: "stands still", allowed: "" };
    asked.ask(async () => ({ error: { errors: [fault] } }), 100);
    expect(asked.answer).toBe(1);
    await vi.advanceTimersByTimeAsync(200);
    expect(asked.answer).toBeNull();
    expect(asked.faults).toEqual([fault]);
  });
});
