// @vitest-environment jsdom
import { beforeEach, describe, expect, it, vi } from "vitest";
import { client } from "../api/client";
import { BuildsState } from "./builds.svelte";

const row = (id: string, more: object = {}) => ({ id, name: id, archived: false, card: null, ...more });
const rows = [row("a"), row("b", { archived: true, card: { status: "holds", towers: [] } })];
const asked: string[] = [];

beforeEach(() => {
  asked.length = 0;
  vi.spyOn(client, "GET").mockImplementation(((
    path: string,
    options: { params?: { path?: { build_id?: string } } },
  ) => {
    asked.push(path.replace("{build_id}", options?.params?.path?.build_id ?? ""));
    const data =
      path === "/api/builds" ? rows : path === "/api/find" ? ["b"] : path.endsWith("card") ? { status: "tight" } : null;
    return Promise.resolve({ data });
  }) as never);
  vi.spyOn(client, "PUT").mockResolvedValue({} as never);
  vi.spyOn(client, "DELETE").mockResolvedValue({} as never);
  vi.spyOn(client, "POST").mockResolvedValue({} as never);
});

describe("the list of builds", () => {
  it("asks for cards that are not stored, and for each last run once", async () => {
    const builds = new BuildsState();
    await builds.load();
    expect(asked).toEqual(["/api/builds", "/api/builds/a/card", "/api/builds/a/last-run", "/api/builds/b/last-run"]);
    expect(builds.cards["b"]!.status).toBe("holds");
    await builds.load();
    expect(asked.filter((path) => path.endsWith("last-run"))).toHaveLength(2);
  });

  it("shows the archive or the rest, and what is found in either", async () => {
    const builds = new BuildsState();
    await builds.load();
    expect(builds.shown.map((build) => build.id)).toEqual(["a"]);
    expect(builds.archived).toBe(1);
    await builds.find("x");
    expect(builds.shown).toEqual([]);
    builds.archive = true;
    expect(builds.shown.map((build) => build.id)).toEqual(["b"]);
    await builds.find("  ");
    expect(builds.found).toBeNull();
  });

  it("remembers what was deleted until something else is done", async () => {
    const builds = new BuildsState();
    await builds.load();
    await builds.remove(builds.builds![0]!);
    expect(builds.deleted!.id).toBe("a");
    await builds.rename(builds.builds![1]!, "Other");
    expect(builds.deleted).toBeNull();
  });

  it("tells why something could not be done", async () => {
    const builds = new BuildsState();
    vi.mocked(client.PUT).mockResolvedValue({
      error: { errors: [{ where: "name", what: "too long", allowed: "" }] },
    } as never);
    await builds.load();
    await builds.rename(builds.builds![0]!, "x");
    expect(builds.faults[0]!.what).toBe("too long");
  });
});
