import { describe, expect, it, vi } from "vitest";
import type { Schemas } from "$lib/api/client";
import { foretold } from "./foretold";
import { loadsOf, toLearnFrom } from "./loads";

const POST = vi.hoisted(() => vi.fn());
vi.mock("$lib/api/client", () => ({ client: { POST } }));

const card = (id: string, revision: number, kind = "log", windows = ["load"]) =>
  ({
    id,
    name: id,
    kind,
    revision,
    windows: windows.map((window) => ({ id: window, name: "", workload: "both" })),
  }) as Schemas["RunCard"];

describe("loads of runs", () => {
  it("are named by their window where a run has several", () => {
    expect(loadsOf([card("a", 1, "log", ["load", "load-2"])]).map((load) => load.name)).toEqual([
      "a, load",
      "a, load-2",
    ]);
  });

  it("are learnt from where they are the newest four of the last two revisions", () => {
    const cards = [card("old", 1), card("a", 2), card("b", 2), card("c", 3), card("d", 3), card("e", 3)];
    expect(toLearnFrom(loadsOf(cards)).map((load) => load.run)).toEqual(["b", "c", "d", "e"]);
  });
});

describe("a run foretold from the others", () => {
  it("asks for nothing where there are fewer than two that somebody measured", async () => {
    expect(await foretold("x", loadsOf([card("a", 1), card("b", 1, "claim")]))).toEqual([]);
    expect(POST).not.toHaveBeenCalled();
  });

  it("tells those that the others say something of", async () => {
    const told = [
      { run: "a", assumed_k: 4, learnt_k: 1 },
      { run: "b", assumed_k: 4, learnt_k: null },
    ];
    POST.mockResolvedValue({ data: { from_others: told } });
    expect(await foretold("x", loadsOf([card("a", 1), card("b", 1)]))).toEqual([told[0]]);
    expect(POST.mock.calls[0]![1].body.loads).toEqual([
      { run: "a", window: "load" },
      { run: "b", window: "load" },
    ]);
  });
});
