import { describe, expect, it } from "vitest";
import { readFileSync } from "node:fs";
import { CAUTIONS, cautionsFor, isRead } from "./cautions";
import { emptyBuild } from "./empty";
import { addLoop } from "./loops";
import { addParts } from "./parts";

const ids = (at?: "route" | "bench", draft = emptyBuild("t", 22)) => cautionsFor(draft, at).map(({ id }) => id);

describe("cautions", () => {
  it("stand only where they apply", () => {
    expect(ids("route")).toEqual([]);
    expect(ids("bench")).toEqual(["hot"]);
    const wet = emptyBuild("t", 22);
    addLoop(wet, "Loop", "pump_strong");
    expect(ids("route", wet)).toEqual(["fill", "pump", "coolant"]);
    wet.loops[0]!.coolant = { fluid: "water", mass_share: 0 };
    expect(ids("route", wet)).toEqual(["fill", "pump"]);
    expect(ids("bench", wet)).toContain("moving-coolant");
  });

  it("know fans, supplies, liquid metal and wood", () => {
    const draft = emptyBuild("t", 22);
    addParts(draft, { kind: "fan", name: "Fan" } as never, 1);
    addParts(draft, { kind: "supply", name: "Supply" } as never, 1);
    addParts(draft, { kind: "interface", name: "Metal", class: "liquid_metal_chip" } as never, 1);
    draft.housing = { ...draft.housing, material: "wood board" };
    expect(ids(undefined, draft)).toEqual(["liquid-metal", "wood", "hot", "mains", "blades"]);
  });

  it("are read once for a build", () => {
    const draft = emptyBuild("t", 22);
    expect(isRead(draft, "hot")).toBe(false);
    draft.cautions_read = ["hot"];
    expect(isRead(draft, "hot")).toBe(true);
  });

  it("say what the steps of the build sheet say", () => {
    const table = new URL("../../../../core/krill/catalogue/work.json", import.meta.url);
    const { cautions } = JSON.parse(readFileSync(table, "utf8")) as { cautions: Record<string, string> };
    const shared = CAUTIONS.filter(({ id }) => id in cautions);
    expect(shared.length).toBeGreaterThan(6);
    for (const { id, text } of shared) expect(text, id).toBe(cautions[id]);
  });
});
