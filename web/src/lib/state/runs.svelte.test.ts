import { beforeEach, describe, expect, it, vi } from "vitest";

const { GET, PATCH, DELETE, upload } = vi.hoisted(() => ({
  GET: vi.fn(),
  PATCH: vi.fn(),
  DELETE: vi.fn(),
  upload: vi.fn(),
}));

vi.mock("../api/client", () => ({
  client: { GET, PATCH, DELETE },
  faultsOf: (error: unknown) => [{ where: "", what: String(error), allowed: "" }],
  uploadPicture: upload,
}));

import { Runs } from "./runs.svelte";

const DOT = { sha256: "ab", caption: "", media_type: "image/png", width: 1, height: 1 };
const runWith = (pictures: object[]) => ({ id: "r", windows: [{ id: "load" }], document: { pictures } });
const told = (data: unknown) => ({ data });

/** an answer that is given when the test says so */
function held() {
  let give!: (data: unknown) => void;
  const answer = new Promise((resolve) => (give = (data) => resolve(told(data))));
  return { answer, give };
}

describe("the run in view", () => {
  let runs: Runs;

  beforeEach(async () => {
    vi.clearAllMocks();
    GET.mockResolvedValue(told(runWith([])));
    runs = new Runs();
    await runs.view("r");
  });

  it("keeps a picture that was added while an older change was still being read anew", async () => {
    const slow = held();
    PATCH.mockResolvedValue(told(runWith([])));
    GET.mockReturnValueOnce(slow.answer);
    upload.mockResolvedValue(told(runWith([DOT])));
    const changed = runs.change({ note: "second load" });
    const added = runs.addPictures([new File(["x"], "dot.png", { type: "image/png" })]);
    await Promise.resolve();
    expect(upload).not.toHaveBeenCalled();
    slow.give(runWith([]));
    await Promise.all([changed, added]);
    expect(runs.run!.document.pictures).toEqual([DOT]);
  });

  it("writes a caption beside the pictures that are there when its turn comes", async () => {
    upload.mockResolvedValue(told(runWith([DOT])));
    PATCH.mockResolvedValue(told(runWith([{ ...DOT, caption: "paste print" }])));
    const added = runs.addPictures([new File(["x"], "dot.png", { type: "image/png" })]);
    const written = runs.captionPicture("ab", "paste print");
    await Promise.all([added, written]);
    expect(PATCH.mock.lastCall![1].body).toEqual({ pictures: [{ ...DOT, caption: "paste print" }] });
  });

  it("goes on after a question that broke off", async () => {
    PATCH.mockRejectedValueOnce(new Error("no network"));
    await expect(runs.change({ note: "a" })).rejects.toThrow("no network");
    PATCH.mockResolvedValue(told(runWith([])));
    await runs.change({ note: "b" });
    expect(PATCH).toHaveBeenCalledTimes(2);
  });

  it.each([
    ["a text", "text/plain", 10],
    ["one of more than 8 MB", "image/png", 8 * 2 ** 20 + 1],
  ])("refuses %s as a picture and sends nothing", async (_, type, size) => {
    const file = new File(["x"], "one", { type });
    Object.defineProperty(file, "size", { value: size });
    await runs.addPictures([file]);
    expect(upload).not.toHaveBeenCalled();
    expect(runs.faults[0]!.what).toBe("is no picture that can be kept");
  });
});
