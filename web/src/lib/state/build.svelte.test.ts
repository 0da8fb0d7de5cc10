import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { BuildDocument } from "../document/build";

const { GET, PATCH, POST } = vi.hoisted(() => ({ GET: vi.fn(), PATCH: vi.fn(), POST: vi.fn() }));
vi.mock("../api/client", async (original) => ({
  ...(await original<typeof import("../api/client")>()),
  client: { GET, PATCH, POST },
}));
const { BuildState } = await import("./build.svelte");
const { watchElsewhere } = await import("./elsewhere");

const source = { id: "processor", kind: "source", places: [{ id: "chip" }] };
const document = {
  name: "Heron",
  parts: [source],
  workloads: [{ id: "idle" }, { id: "both" }],
  rooms: [{ air_c: 24 }],
};
const stored = (sequence: number, more: object = {}) => ({
  id: "b1",
  role: "owner",
  owner: "demo",
  sequence,
  undo: "an edit",
  redo: null,
  revision: 1,
  revision_why: "first",
  changed: true,
  document: { ...document, brief: { worst_workloads: ["both"] } },
  ...more,
});
const ok = (data: object) => ({ data, response: new Response("{}", { status: 200 }) });
const bad = (status: number, error: unknown) => ({ error, response: new Response("{}", { status }) });
const place = (temperature_c: number, band: [number, number] | null = null) => ({
  address: "chip",
  temperature_c,
  status: band ? "tight" : "holds",
  band_c: band && { low: band[0], high: band[1] },
  margin_band_k: band && { low: 90 - band[1], high: 90 - band[0] },
});
const prediction = (temperature_c: number, band: [number, number] | null = null, workload = "both") => ({
  workloads: [{ workload, tightest: "chip", places: [place(temperature_c, band)], notices: [] }],
});
const predicted = (...figures: Parameters<typeof prediction>) => ok(prediction(...figures));
const OUTLOOK = "/api/builds/{build_id}/outlook";
/** The server answers every question of one kind alike. */
function answering(central: number, band: [number, number], { sequence = 4, workload = "both" } = {}) {
  POST.mockImplementation((path: string) =>
    Promise.resolve(
      path === OUTLOOK
        ? ok({ sequence, bands: prediction(central, band, workload), changes: { place: "chip", workload } })
        : predicted(central, null, workload),
    ),
  );
}
const asked = (path: string) => POST.mock.calls.filter((call) => call[0] === path);
const patched = (sequence: number, temperature_c: number | null = null, more: object = {}) =>
  ok({
    ...stored(sequence),
    document: null,
    prediction: temperature_c === null ? null : prediction(temperature_c),
    unsolved: [],
    ...more,
  });
const renaming = (name: string) => [{ op: "replace", path: "/name", value: name }];

async function opened() {
  GET.mockResolvedValue(ok(stored(4)));
  POST.mockResolvedValue(predicted(60));
  const build = new BuildState();
  await build.open("b1");
  return build;
}
const rename = (name: string) => (draft: BuildDocument) => void (draft.name = name);

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  vi.resetAllMocks();
});

describe("an open build", () => {
  it("starts in the worst workload and predicts it", async () => {
    const build = await opened();
    expect(build.workloadId).toBe("both");
    expect(build.room).toBe(24);
    await vi.advanceTimersByTimeAsync(0);
    expect(build.result?.places[0]?.temperature_c).toBe(60);
    expect(POST.mock.calls[0]?.[1].body).toMatchObject({ workloads: ["both"], samples: 0, seed: 1 });
  });

  it("says why it cannot be opened", async () => {
    GET.mockResolvedValue(bad(404, { errors: [{ where: "build", what: "there is none", allowed: "" }] }));
    const build = new BuildState();
    await build.open("b2");
    expect(build.loadFaults[0]?.what).toBe("there is none");
    expect(build.editable).toBe(false);
  });

  it("steps through its workloads in a circle", async () => {
    const build = await opened();
    build.shift(1);
    expect(build.workloadId).toBe("idle");
    build.shift(-1);
    expect(build.workloadId).toBe("both");
  });
});

describe("edits", () => {
  it("are sent as a patch on the sequence they were made on, and bring what they predict", async () => {
    const build = await opened();
    PATCH.mockResolvedValue(patched(5, 66));
    build.edit("name", rename("Heron II"));
    expect(build.saved).toBe("saving");
    await vi.advanceTimersByTimeAsync(0);
    expect(PATCH.mock.calls[0]?.[1].body).toEqual({
      base: 4,
      label: "name",
      merge: false,
      patch: renaming("Heron II"),
      asked: { workload: "both", room_c: null },
    });
    expect(build.saved).toBe("saved");
    expect(build.sequence).toBe(5);
    expect(build.result?.places[0]?.temperature_c).toBe(66);
    expect(asked("/api/predict")).toHaveLength(1);
  });

  it("that follow each other quickly are one step to undo, later ones another", async () => {
    const build = await opened();
    PATCH.mockResolvedValueOnce(patched(5)).mockResolvedValueOnce(patched(6)).mockResolvedValueOnce(patched(7));
    build.edit("name", rename("H"));
    await vi.advanceTimersByTimeAsync(349);
    build.edit("name", rename("He"));
    await vi.advanceTimersByTimeAsync(350);
    build.edit("name", rename("Her"));
    await vi.advanceTimersByTimeAsync(0);
    expect(PATCH.mock.calls.map((call) => call[1].body.merge)).toEqual([false, true, false]);
    expect(PATCH.mock.calls.map((call) => call[1].body.base)).toEqual([4, 5, 6]);
  });

  it.each([
    ["Processor in Both: 12 W", "Processor in Both: 125 W", true],
    ["Fan: duty", "Fan: duty", true],
    ["Fan: duty", "take Fan out", false],
    ["Processor in Both: 12 W", "Graphics in Both: 12 W", false],
  ])("%s and at once %s are one step: %s", async (first, second, merge) => {
    const build = await opened();
    PATCH.mockResolvedValueOnce(patched(5)).mockResolvedValueOnce(patched(6));
    build.edit(first, rename("a"));
    await vi.advanceTimersByTimeAsync(50);
    build.edit(second, rename("b"));
    await vi.advanceTimersByTimeAsync(0);
    expect(PATCH.mock.calls[1]?.[1].body.merge).toBe(merge);
  });

  it("undone quickly are undone one after the other, each on what the one before left", async () => {
    const build = await opened();
    const UNDO = "/api/builds/{build_id}/undo";
    let at = 4;
    POST.mockImplementation((path: string) => Promise.resolve(path === UNDO ? ok(stored((at += 1))) : predicted(60)));
    await Promise.all([build.step("undo"), build.step("undo")]);
    expect(asked(UNDO).map((call) => call[1].body.base)).toEqual([4, 5]);
    expect(build.sequence).toBe(6);
  });

  it("are not undone where there is none, and the server is not asked", async () => {
    GET.mockResolvedValue(ok(stored(4, { undo: null })));
    POST.mockResolvedValue(predicted(60));
    const build = new BuildState();
    await build.open("b1");
    await build.step("undo");
    await build.step("redo");
    expect(asked("/api/builds/{build_id}/undo")).toHaveLength(0);
    expect(asked("/api/builds/{build_id}/redo")).toHaveLength(0);
  });

  it("that take the part in view away leave none in view", async () => {
    const build = await opened();
    PATCH.mockResolvedValueOnce(patched(5)).mockResolvedValueOnce(patched(6));
    build.selected = "chip";
    build.edit("name", rename("a"));
    expect(build.selected).toBe("chip");
    build.edit("take it out", (draft) => (draft.parts = []));
    expect(build.selected).toBeNull();
  });

  it("made while a save is under way are saved after it, on what it stored", async () => {
    const build = await opened();
    let answer!: (value: unknown) => void;
    PATCH.mockReturnValueOnce(new Promise((resolve) => (answer = resolve))).mockResolvedValueOnce(patched(6));
    build.edit("one", rename("one"));
    await vi.advanceTimersByTimeAsync(400);
    build.edit("two", rename("tw"));
    build.edit("two", rename("two"));
    await vi.advanceTimersByTimeAsync(400);
    expect(PATCH).toHaveBeenCalledTimes(1);
    answer(patched(5));
    await vi.advanceTimersByTimeAsync(0);
    expect(PATCH).toHaveBeenCalledTimes(2);
    expect(PATCH.mock.calls[1]?.[1].body).toMatchObject({ base: 5, merge: false, patch: renaming("two") });
    expect(build.saved).toBe("saved");
  });

  it("that are stored otherwise than sent are shown as they are stored", async () => {
    const build = await opened();
    PATCH.mockResolvedValueOnce(patched(5, 60, { document: { ...document, name: "Tidied" } }));
    build.edit("name", rename(" untidy "));
    await vi.advanceTimersByTimeAsync(0);
    expect(build.document?.name).toBe("Tidied");
    PATCH.mockResolvedValueOnce(patched(6));
    build.edit("name", rename("New"));
    await vi.advanceTimersByTimeAsync(0);
    expect(PATCH.mock.calls[1]?.[1].body.patch).toEqual(renaming("New"));
  });

  it("that reach no server are kept and tried again until one answers", async () => {
    const build = await opened();
    PATCH.mockResolvedValueOnce(bad(503, "")).mockResolvedValueOnce(bad(502, "")).mockResolvedValueOnce(patched(5, 61));
    build.edit("name", rename("kept"));
    await vi.advanceTimersByTimeAsync(400);
    expect(build.saved).toBe("no answer");
    expect(build.refused[0]?.what).toContain("does not answer");
    await vi.advanceTimersByTimeAsync(2000);
    expect(build.saved).toBe("no answer");
    await vi.advanceTimersByTimeAsync(2000);
    expect(build.saved).toBe("saved");
    expect(build.refused).toEqual([]);
    expect(PATCH.mock.calls[2]?.[1].body).toMatchObject({ base: 4, label: "name", patch: renaming("kept") });
  });

  it("that are refused say why and go along with the next ones", async () => {
    const build = await opened();
    const fault = { where: "fan/duty", what: "1.4", allowed: "0 to 1" };
    PATCH.mockResolvedValueOnce(bad(422, { errors: [fault] })).mockResolvedValueOnce(patched(5));
    build.edit("duty", rename("bad"));
    await vi.advanceTimersByTimeAsync(400);
    expect(build.saved).toBe("refused");
    expect(build.refused).toEqual([fault]);
    await vi.advanceTimersByTimeAsync(10_000);
    expect(PATCH).toHaveBeenCalledTimes(1);
    build.edit("duty again", rename("good"));
    await vi.advanceTimersByTimeAsync(400);
    expect(build.saved).toBe("saved");
    expect(build.refused).toEqual([]);
  });

  it("that are saved but cannot be solved keep the last good state and say why", async () => {
    const build = await opened();
    await vi.advanceTimersByTimeAsync(0);
    const fault = { where: "paste/area", what: "is missing", allowed: "a figure" };
    PATCH.mockResolvedValueOnce(patched(5, null, { unsolved: [fault] }));
    build.edit("cooler", rename("unsolved"));
    await vi.advanceTimersByTimeAsync(0);
    expect(build.saved).toBe("saved");
    expect([build.refused, build.unsolved]).toEqual([[], [fault]]);
    expect(build.unknown).toBe(true);
    expect(build.result?.places[0]).toMatchObject({ temperature_c: 60, status: "unknown", margin_k: null });
    PATCH.mockResolvedValueOnce(patched(6, 62));
    build.edit("cooler", rename("solved"));
    await vi.advanceTimersByTimeAsync(0);
    expect(build.unknown).toBe(false);
    expect(build.result?.places[0]).toMatchObject({ temperature_c: 62, status: "holds" });
  });

  it("answered for another workload than the one in view change nothing in it", async () => {
    const build = await opened();
    let answer!: (value: unknown) => void;
    PATCH.mockReturnValueOnce(new Promise((resolve) => (answer = resolve)));
    build.edit("name", rename("late"));
    await vi.advanceTimersByTimeAsync(0);
    POST.mockResolvedValue(predicted(31, null, "idle"));
    build.choose("idle");
    await vi.advanceTimersByTimeAsync(0);
    answer(patched(5, 99));
    await vi.advanceTimersByTimeAsync(0);
    expect(build.result?.places[0]?.temperature_c).toBe(31);
  });

  it("of a build without a workload ask for no figures", async () => {
    GET.mockResolvedValue(ok(stored(4, { document: { ...document, workloads: [] } })));
    const build = new BuildState();
    await build.open("b1");
    PATCH.mockResolvedValue(patched(5));
    build.edit("name", rename("Empty"));
    await vi.advanceTimersByTimeAsync(1000);
    expect(PATCH.mock.calls[0]?.[1].body.asked).toBeNull();
    expect(POST).not.toHaveBeenCalled();
  });

  it("of a reader are not made", async () => {
    GET.mockResolvedValue(ok(stored(4, { role: "reader" })));
    POST.mockResolvedValue(predicted(60));
    const build = new BuildState();
    await build.open("b1");
    build.edit("name", rename("mine"));
    await vi.advanceTimersByTimeAsync(1000);
    expect(build.document?.name).toBe("Heron");
    expect(PATCH).not.toHaveBeenCalled();
  });
});

describe("two people", () => {
  const theirs = (more: object) => stored(9, { undo: "their edit", document: { ...document, ...more } });
  const conflict = (more: object) => ({ errors: [], stored: theirs(more) });
  async function stale(more: object = { name: "theirs", notes: "from them" }) {
    const build = await opened();
    PATCH.mockResolvedValueOnce(bad(409, conflict(more))).mockResolvedValueOnce(patched(10));
    build.edit("name", (draft) => Object.assign(draft, { name: "mine", rooms: [{ id: "room", air_c: 30 }] }));
    await vi.advanceTimersByTimeAsync(400);
    return build;
  }
  const sent = (at: number) => PATCH.mock.calls[at]?.[1].body as { base: number; patch: object[]; label: string };

  it("who changed one thing otherwise are told, and nobody is overwritten", async () => {
    const build = await stale();
    expect(build.saved).toBe("stale");
    expect(build.conflict?.clashes).toEqual(["name"]);
    expect(build.document?.name).toBe("mine");
    expect(PATCH).toHaveBeenCalledTimes(1);
  });

  it.each([
    ["theirs", "theirs"],
    ["mine", "mine"],
  ] as const)("who take %s of it have the rest of both", async (choice, name) => {
    const build = await stale();
    build.resolve(choice);
    await vi.advanceTimersByTimeAsync(400);
    expect(build.conflict).toBeNull();
    expect(build.document).toMatchObject({ name, notes: "from them", rooms: [{ air_c: 30 }] });
    expect(sent(1).base).toBe(9);
    expect(build.saved).toBe("saved");
    expect(build.sequence).toBe(10);
  });

  it("who changed different things are not asked: both stand, and what came is told", async () => {
    const build = await stale({ notes: "from them" });
    expect(build.conflict).toBeNull();
    expect(build.document).toMatchObject({ name: "mine", notes: "from them" });
    expect(sent(1)).toMatchObject({
      base: 9,
      label: "name",
      patch: expect.arrayContaining(renaming("mine")) as unknown[],
    });
    expect([build.saved, build.sequence, build.news]).toEqual(["saved", 10, "their edit"]);
  });

  it("learn of each other's changes while they do nothing", async () => {
    const build = await opened();
    let hidden = true;
    const leave = watchElsewhere(build, () => hidden);
    GET.mockImplementation((path: string) =>
      Promise.resolve(ok(path.endsWith("standing") ? { id: "b1", sequence: 9 } : theirs({ name: "theirs" }))),
    );
    await vi.advanceTimersByTimeAsync(3000);
    expect(build.sequence).toBe(4);
    hidden = false;
    await vi.advanceTimersByTimeAsync(3000);
    expect([build.document?.name, build.sequence, build.news]).toEqual(["theirs", 9, "their edit"]);
    await vi.advanceTimersByTimeAsync(3000);
    expect(GET.mock.calls.filter((call) => !(call[0] as string).endsWith("standing"))).toHaveLength(2);
    leave();
    await vi.advanceTimersByTimeAsync(9000);
    expect(GET).toHaveBeenCalledTimes(4);
  });

  it("do not lose what is being saved when somebody else was faster", async () => {
    const build = await opened();
    GET.mockResolvedValue(ok(theirs({ name: "theirs" })));
    PATCH.mockReturnValueOnce(new Promise(() => undefined));
    build.edit("name", rename("mine"));
    await build.catchUp();
    expect([build.document?.name, build.sequence]).toEqual(["mine", 4]);
  });

  it("who undo what is no longer the newest see it first", async () => {
    const build = await opened();
    POST.mockResolvedValueOnce(bad(409, conflict({ name: "theirs" }))).mockResolvedValue(predicted(60));
    await build.step("undo");
    expect([build.document?.name, build.sequence, build.news]).toEqual(["theirs", 9, "their edit"]);
  });
});

describe("predictions", () => {
  it("that come late do not overwrite newer ones", async () => {
    const build = await opened();
    await vi.advanceTimersByTimeAsync(0);
    let late!: (value: unknown) => void;
    POST.mockReturnValueOnce(new Promise((resolve) => (late = resolve))).mockResolvedValue(predicted(75));
    build.setRoom(28);
    build.setRoom(35);
    await vi.advanceTimersByTimeAsync(0);
    late(predicted(66));
    await vi.advanceTimersByTimeAsync(0);
    expect(build.result?.places[0]?.temperature_c).toBe(75);
  });

  it("bring bands and next changes of the stored draft once typing pauses", async () => {
    const build = await opened();
    answering(60, [57, 64], { sequence: 6 });
    PATCH.mockResolvedValueOnce(patched(5, 61)).mockResolvedValueOnce(patched(6, 62));
    build.selected = "chip";
    build.edit("name", rename("a"));
    await vi.advanceTimersByTimeAsync(200);
    build.edit("name", rename("b"));
    await vi.advanceTimersByTimeAsync(299);
    expect(asked(OUTLOOK)).toHaveLength(0);
    await vi.advanceTimersByTimeAsync(1);
    expect(asked(OUTLOOK)).toHaveLength(1);
    expect(asked(OUTLOOK)[0]?.[1].body).toEqual({
      workload: "both",
      room_c: null,
      place: "chip",
      samples: 400,
      sequence: 6,
    });
    expect(build.bandsFresh).toBe(true);
    expect(build.forecast.changes?.place).toBe("chip");
  });

  it("of another state than the one in view are left", async () => {
    const build = await opened();
    answering(60, [57, 64], { sequence: 3 });
    build.predict();
    await vi.advanceTimersByTimeAsync(400);
    expect(build.bandsFresh).toBe(false);
  });

  it("of a draft that was overtaken are asked with the document in view", async () => {
    const build = await opened();
    answering(60, [57, 64]);
    const theirs = stored(9, { document: { ...document, name: "theirs" } });
    PATCH.mockResolvedValueOnce(bad(409, { errors: [], stored: theirs }));
    build.edit("name", rename("mine"));
    POST.mockResolvedValue(predicted(63, [60, 66]));
    await vi.advanceTimersByTimeAsync(400);
    expect(asked(OUTLOOK)).toHaveLength(0);
    expect(POST.mock.calls.at(-1)?.[1].body).toMatchObject({ samples: 400, document: { name: "mine" } });
    expect(build.bandsFresh).toBe(true);
    expect(build.forecast.changes).toBeNull();
  });

  it("keep the old band, moved with its part, until the new one is there", async () => {
    const build = await opened();
    answering(60, [57, 64]);
    build.predict();
    await vi.advanceTimersByTimeAsync(400);
    expect(build.bandsFresh).toBe(true);
    POST.mockResolvedValue(predicted(70));
    build.setRoom(34);
    await vi.advanceTimersByTimeAsync(10);
    expect(build.bandsFresh).toBe(false);
    const moved = build.result?.places[0];
    expect(moved?.temperature_c).toBe(70);
    expect(moved?.band_c).toEqual({ low: 67, high: 74 });
    expect(moved?.margin_band_k).toEqual({ low: 16, high: 23 });
    expect(moved?.status).toBe("tight");
  });

  it("do not lend a band to another workload", async () => {
    const build = await opened();
    answering(60, [57, 64]);
    build.predict();
    await vi.advanceTimersByTimeAsync(400);
    POST.mockResolvedValue(predicted(31, null, "idle"));
    build.choose("idle");
    await vi.advanceTimersByTimeAsync(10);
    expect(build.result?.places[0]?.band_c).toBeNull();
  });

  it("that are refused keep the last good state and say why", async () => {
    const build = await opened();
    await vi.advanceTimersByTimeAsync(0);
    POST.mockResolvedValue(bad(422, { errors: [{ where: "loop", what: "does not settle", allowed: "" }] }));
    build.setRoom(99);
    await vi.advanceTimersByTimeAsync(400);
    expect(build.unsolved[0]?.where).toBe("loop");
    expect(build.result?.places[0]).toMatchObject({ temperature_c: 60, status: "unknown" });
  });
});
