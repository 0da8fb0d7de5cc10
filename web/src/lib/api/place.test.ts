import { expect, test } from "vitest";
import { Place } from "./place";

test("a newer question for a place ends the one before, and names the same place", () => {
  const place = new Place();
  const first = place.asking();
  expect(first.signal.aborted).toBe(false);
  const second = place.asking();
  expect(first.signal.aborted).toBe(true);
  expect(second.signal.aborted).toBe(false);
  expect(second.headers).toEqual(first.headers);
});

test("two places of a page have names of their own and leave each other alone", () => {
  const [one, other] = [new Place(), new Place()];
  const first = one.asking();
  const second = other.asking();
  expect(first.headers["X-Krill-Place"]).not.toBe(second.headers["X-Krill-Place"]);
  other.leave();
  expect(first.signal.aborted).toBe(false);
  expect(second.signal.aborted).toBe(true);
});

test("an answer that is left on its way is none, and nobody is told of an error", async () => {
  const place = new Place();
  let fail: (error: unknown) => void = () => undefined;
  const left = place.ask(() => new Promise((_, reject) => (fail = reject)));
  const newer = place.ask(() => Promise.resolve("newer"));
  fail(new DOMException("signal is aborted without reason", "AbortError"));
  expect(await left).toBeNull();
  expect(await newer).toBe("newer");
});

test("an error of a question that somebody waits for is told", async () => {
  await expect(new Place().ask(() => Promise.reject(new Error("broken")))).rejects.toThrow("broken");
});
