import { fieldOf, setAt } from "../document/addresses";
import { afterEach, describe, expect, it, vi } from "vitest";
import { opened, type BuildDocument } from "../document/build";

const { POST } = vi.hoisted(() => ({ POST: vi.fn() }));
vi.mock("../api/client", async (original) => ({
  ...(await original<typeof import("../api/client")>()),
  client: { POST },
}));
const noteOf = vi.hoisted(() => vi.fn());
vi.mock("./marks.svelte", () => ({ noteOf }));
const { Trial } = await import("./trial.svelte");

afterEach(() => void vi.resetAllMocks());

const makeBuild = (editable = true) => {
  const parts = [{ id: "rad", kind: "radiator", sections: 2 }];
  const document = opened({ format: "krill-build", version: 1, name: "Heron", rooms: [], parts });
  return {
    id: "b1",
    document,
    workloadId: "both",
    roomC: null,
    editable,
    edit: vi.fn((_label: string, change: (draft: BuildDocument) => void) => change(document)),
  };
};
const more = (draft: BuildDocument) => void setAt(draft, "rad/sections", 3);
const compared = { data: { difference: [] }, response: new Response("{}") };

describe("a trial", () => {
  it("is worked out on a copy: the build stays as it is until it is taken", async () => {
    POST.mockResolvedValue(compared);
    const build = makeBuild();
    const trial = new Trial(build);
    await trial.propose("one more section", more);
    expect(fieldOf(build.document.parts[0], "sections")).toBe(2);
    expect(POST.mock.calls[0]?.[1].body.second.parts[0].sections).toBe(3);
    trial.take();
    expect(build.edit).toHaveBeenCalledWith("one more section", expect.any(Function));
    expect(fieldOf(build.document.parts[0], "sections")).toBe(3);
    expect(trial.document).toBeNull();
  });

  it("takes a price along that was typed while it is in view, and drops what it has not got", async () => {
    POST.mockResolvedValue(compared);
    const build = makeBuild();
    build.document["notes"] = "old";
    const trial = new Trial(build);
    await trial.propose("bare", (draft) => void delete draft["notes"], "rad/sections=3");
    trial.price(trial.priceKey, 80);
    trial.take();
    expect(build.document["prices"]).toEqual({ "rad/sections=3": 80 });
    expect(build.document).not.toHaveProperty("notes");
  });

  it("of stated edits is the document that the server made of them", async () => {
    const build = makeBuild();
    const made = { format: "krill-build", version: 1, name: "Heron", rooms: [], parts: [{ id: "rad", sections: 4 }] };
    POST.mockImplementation(async (path: string) => (path === "/api/edited" ? { data: made } : compared));
    const trial = new Trial(build);
    const edits = [{ target: "rad", field: "sections", value: 4 }];
    await trial.proposeEdits("two more", edits, "rad/sections=4");
    expect(POST.mock.calls[0]?.[1].body).toEqual({ document: build.document, edits });
    expect(POST.mock.calls[1]?.[1].body.second.parts).toEqual(made.parts);
    expect([trial.priceKey, trial.comparison]).toEqual(["rad/sections=4", compared.data]);
    trial.take();
    expect(build.document.parts).toEqual(made.parts);
  });

  it("of edits that cannot be made says why and cannot be taken", async () => {
    const fault = { where: "rad", what: "there is nothing of this id", allowed: "an id of the build" };
    POST.mockResolvedValue({ error: { errors: [fault] }, response: new Response("", { status: 422 }) });
    const build = makeBuild();
    const trial = new Trial(build);
    await trial.proposeEdits("none", [{ target: "rad", field: "sections", value: 0 }]);
    expect(trial.faults).toEqual([fault]);
    trial.take();
    expect(build.edit).not.toHaveBeenCalled();
    trial.leave();
  });

  it("that cannot be built says why and cannot be taken", async () => {
    const fault = { where: "rad/sections", what: "0", allowed: "1 or more" };
    POST.mockResolvedValue({ error: { errors: [fault] }, response: new Response("", { status: 422 }) });
    const build = makeBuild();
    const trial = new Trial(build);
    await trial.propose("none", more);
    expect(trial.faults).toEqual([fault]);
    trial.take();
    expect(build.edit).not.toHaveBeenCalled();
  });

  it("is not taken by a reader", async () => {
    POST.mockResolvedValue(compared);
    const build = makeBuild(false);
    const trial = new Trial(build);
    await trial.propose("one more section", more);
    trial.take();
    expect(build.edit).not.toHaveBeenCalled();
  });

  it("that is discarded stays in the logbook with what it would have done", async () => {
    POST.mockResolvedValue({ ...compared, data: { ...compared.data, sentence: "Memory 3.2 K cooler." } });
    const trial = new Trial(makeBuild());
    await trial.propose("one more section", more);
    trial.discard();
    const word = "one more section, not kept. Memory 3.2 K cooler.";
    expect(noteOf.mock.calls).toEqual([["b1", "a trial", "tried", word]]);
    expect(trial.document).toBeNull();
  });

  it.each([
    ["by a reader", false, true],
    ["before it is solved", true, false],
  ])("that is discarded %s leaves no mark", async (_, editable, solved) => {
    POST.mockResolvedValue(solved ? compared : { error: {}, response: new Response("", { status: 422 }) });
    const trial = new Trial(makeBuild(editable));
    await trial.propose("one more section", more);
    trial.discard();
    expect(noteOf).not.toHaveBeenCalled();
    expect(trial.document).toBeNull();
  });

  it("that is left forgets the answer still under way", async () => {
    let answer!: (value: unknown) => void;
    POST.mockReturnValue(new Promise((resolve) => (answer = resolve)));
    const trial = new Trial(makeBuild());
    const proposed = trial.propose("one more section", more);
    trial.leave();
    answer(compared);
    await proposed;
    expect(trial.comparison).toBeNull();
    expect(trial.document).toBeNull();
  });
});
