// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { client } from "../api/client";
import { Marks, newKey, noteOf, read } from "./marks.svelte";

const path = "/api/builds/{build_id}/marks";
const gone = { error: {}, response: new Response(null, { status: 503 }) };
const kept = (marks: unknown[], now = new Date().toISOString()) => ({
  data: { now, marks },
  response: new Response(null, { status: 200 }),
});
const stored = (about: string, key: string) => ({
  id: 1,
  key,
  about,
  kind: "done",
  word: "",
  minutes: null,
  at: new Date().toISOString(),
  who: "mara",
});
let get: ReturnType<typeof vi.spyOn>;
let post: ReturnType<typeof vi.spyOn>;
beforeEach(() => {
  localStorage.clear();
  get = vi.spyOn(client, "GET").mockResolvedValue(kept([]) as never);
  post = vi.spyOn(client, "POST").mockResolvedValue(gone as never);
});
afterEach(() => vi.restoreAllMocks());
const flush = () => new Promise((done) => setTimeout(done, 0));

describe("marks", () => {
  it("stand at once, wait without a network, and are known again when the page is", async () => {
    const marks = new Marks();
    const close = marks.open("one");
    await flush();
    marks.add("pump", "done", { minutes: 12 });
    expect(marks.isDone("pump")).toBe(true);
    await flush();
    expect([marks.waiting.length, marks.offline]).toEqual([1, true]);
    close();
    const again = new Marks();
    const closeAgain = again.open("one");
    expect(again.isDone("pump")).toBe(true);
    expect(read("marks-waiting:one")).toHaveLength(1);
    closeAgain();
    const other = new Marks();
    other.open("two")();
    expect(other.isDone("pump")).toBe(false);
  });

  it("say who read a caution first, and nobody where it was only ticked", async () => {
    const first = { ...stored("mains", "k-1"), kind: "read", who: "tom" };
    get.mockResolvedValue(kept([stored("fill", "k-0"), first, { ...first, id: 2, key: "k-2", who: "mara" }]) as never);
    const marks = new Marks();
    const close = marks.open("one");
    await flush();
    expect([marks.readBy("mains")?.who, marks.readBy("fill"), marks.readBy("coolant")]).toEqual([
      "tom",
      undefined,
      undefined,
    ]);
    close();
  });

  it("of a build that nobody looks at are sent, and wait where there is no network", async () => {
    noteOf("one", "a trial", "tried", "two fans, not kept");
    expect(read("marks-waiting:one")).toMatchObject([{ about: "a trial", kind: "tried", word: "two fans, not kept" }]);
    await flush();
    await flush();
    expect(post).toHaveBeenCalledWith(path, expect.objectContaining({ params: { path: { build_id: "one" } } }));
  });

  it("are sent once there is one, and stand once", async () => {
    const marks = new Marks();
    const close = marks.open("one");
    await flush();
    marks.add("pump", "done");
    await flush();
    const { key } = marks.waiting[0]!;
    post.mockResolvedValue(kept([stored("pump", key), stored("fan", "of-another")]) as never);
    await marks.send();
    expect([marks.waiting.length, marks.offline, marks.all.length]).toEqual([0, false, 2]);
    expect(post).toHaveBeenLastCalledWith(path, expect.objectContaining({ params: { path: { build_id: "one" } } }));
    close();
  });

  it("run on the server's clock", async () => {
    get.mockResolvedValue(kept([], new Date(Date.now() + 3_600_000).toISOString()) as never);
    const marks = new Marks();
    const close = marks.open("one");
    await flush();
    expect(Math.round(marks.ahead / 60_000)).toBe(60);
    marks.add("leak", "timer", { minutes: 10 });
    expect(Math.round((marks.timers[0]!.rings - Date.now()) / 60_000)).toBe(70);
    close();
  });

  it("say what the server refuses, and keep it", async () => {
    const errors = [{ where: "marks", what: "more than 20000 marks", allowed: "a new build" }];
    post.mockResolvedValue({ error: { errors }, response: new Response(null, { status: 422 }) } as never);
    const marks = new Marks();
    const close = marks.open("one");
    await flush();
    marks.add("pump", "done");
    await flush();
    expect([marks.faults, marks.offline, marks.waiting.length]).toEqual([errors, false, 1]);
    close();
  });

  it("have keys of their own, and a broken store is an empty one", () => {
    expect(newKey()).toMatch(/^[0-9a-f]{32}$/);
    expect(newKey()).not.toBe(newKey());
    localStorage.setItem("marks-waiting:one", "{");
    expect(read("marks-waiting:one")).toBeNull();
  });
});
