import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { BuildState } from "./build.svelte";

const { GET, POST, DELETE } = vi.hoisted(() => ({ GET: vi.fn(), POST: vi.fn(), DELETE: vi.fn() }));
vi.mock("../api/client", async (original) => ({
  ...(await original<typeof import("../api/client")>()),
  client: { GET, POST, DELETE },
}));
const { Studies } = await import("./study.svelte");

// 2 x 3 candidates: sections across, fan duties along
const QUESTION = {
  vary: [
    {
      address: "rad/sections",
      options: [
        { value: 2, label: "2 × 120" },
        { value: 3, label: "3 × 120" },
      ],
    },
    { address: "movers/fans", options: [{ value: 0.4, label: "40 %" }, { value: 0.6, label: "60 %" }, { value: 0.8 }] },
  ],
};
const study = (state: string, id = "s1") => ({ id, state, question: QUESTION, size: 6, solved: 0 });
const RESULT = {
  size: 6,
  meets: [1, 2, 3, 4],
  undominated: [1, 3],
  closest: 1,
  columns: {
    margin_k: [2, 6, 9, 7, 11, null],
    level_dba: [28, 33, 39, 28, 33, null],
    height_mm: [53, 53, 53, 53, 53, 53],
    price: [null, 90, 90, 120, 120, 120],
  },
};
const ok = (data: object) => ({ data, response: new Response("{}", { status: 200 }) });
const build = () =>
  ({
    id: "b1",
    sequence: 4,
    roomC: 28,
    flush: vi.fn(async () => {}),
    take: vi.fn(),
    learn: vi.fn(),
  }) as unknown as BuildState & {
    flush: ReturnType<typeof vi.fn>;
    take: ReturnType<typeof vi.fn>;
    learn: ReturnType<typeof vi.fn>;
  };

/** GET answers by path: the list, a study, its result, a candidate. */
function serve(states: string[]) {
  GET.mockImplementation(async (path: string, init: { params: { path: { number?: number } } }) => {
    if (path.endsWith("/studies")) return ok([study(states[0]!)]);
    if (path.endsWith("/result")) return ok(RESULT);
    if (path.includes("/candidates/")) return ok({ number: init.params.path.number });
    return ok(study(states.length > 1 ? states.splice(1, 1)[0]! : states[0]!));
  });
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  vi.resetAllMocks();
});

async function done() {
  serve(["done"]);
  const studies = new Studies(build());
  await studies.load();
  return studies;
}

describe("a study", () => {
  it("is asked after the draft is saved, in its room", async () => {
    const mine = build();
    const studies = new Studies(mine);
    serve(["waiting"]);
    POST.mockResolvedValue(ok(study("waiting")));
    const axis = { address: "rad/sections", name: "Radiator", options: [{ value: 2 }] };
    await studies.ask([axis], { margins: [], sounds: [] }, ["margin"], "first");
    expect(mine.flush).toHaveBeenCalled();
    expect(POST.mock.calls[0]?.[1].body.question).toMatchObject({ room_c: 28, vary: [{ address: "rad/sections" }] });
    expect(studies.open).toBe(true);
    studies.stop();
  });

  it("is asked after until it is over, through lost answers, and then shows its smallest that meets all", async () => {
    serve(["waiting", "running", "running", "done"]);
    const studies = new Studies(build());
    await studies.load();
    expect(studies.result).toBeNull();
    const answers = GET.getMockImplementation()!;
    GET.mockImplementationOnce(async () => ({ error: "", response: new Response("", { status: 503 }) }));
    GET.mockImplementation(answers);
    await vi.advanceTimersByTimeAsync(5 * 400);
    expect(studies.open).toBe(false);
    expect(studies.result?.meets).toEqual([1, 2, 3, 4]);
    expect(studies.detail?.number).toBe(1);
  });

  it("that fails to be asked says why and asks nothing more", async () => {
    const studies = new Studies(build());
    const fault = { where: "vary/x", what: "there is nothing like it", allowed: "" };
    POST.mockResolvedValue({ error: { errors: [fault] }, response: new Response("", { status: 422 }) });
    await studies.ask([], { margins: [], sounds: [] }, [], "x");
    expect(studies.faults).toEqual([fault]);
    expect(GET).not.toHaveBeenCalled();
    expect(studies.asking).toBe(false);
  });

  it("that is deleted leaves the next one in view", async () => {
    const studies = await done();
    studies.list = [study("done"), study("cancelled", "s2")] as never;
    DELETE.mockResolvedValue(ok({}));
    await studies.remove(studies.list[0]!);
    expect(studies.current?.id).toBe("s2");
    expect(studies.result).toBeNull();
  });
});

describe("candidates", () => {
  it("know their options in the order of the server: the last axis runs fastest", async () => {
    const studies = await done();
    expect([0, 2, 3, 5].map((number) => studies.optionsOf(number))).toEqual([
      [0, 0],
      [0, 2],
      [1, 0],
      [1, 2],
    ]);
  });

  it("are picked among those that meet every demand", async () => {
    const studies = await done();
    expect(studies.picked("smallest")).toBe(1); // two sections, the quieter of them
    expect(studies.picked("quietest")).toBe(3);
    expect(studies.picked("coolest")).toBe(4);
    expect(studies.picked("cheapest")).toBe(1);
    studies.result = { ...RESULT, meets: [] } as never;
    expect(studies.picked("smallest")).toBeNull();
  });

  it("become the draft and a revision, or what was stored meanwhile is in view", async () => {
    serve(["done"]);
    const shown = build();
    const studies = new Studies(shown);
    await studies.load();
    POST.mockResolvedValueOnce(ok({ id: "b1" }));
    expect(await studies.take(3, "quietest")).toBe(true);
    expect(POST.mock.calls[0]?.[1]).toMatchObject({
      params: { path: { number: 3 } },
      body: { base: 4, why: "quietest" },
    });
    const stale = { errors: [], stored: { id: "b1", sequence: 9 } };
    POST.mockResolvedValueOnce({ error: stale, response: new Response("", { status: 409 }) });
    expect(await studies.take(3, "again")).toBe(false);
    expect(shown.learn).toHaveBeenCalledWith(stale.stored);
    expect(studies.faults[0]?.what).toBe("the build was changed elsewhere");
  });
});
