import { describe, expect, it } from "vitest";
import { opened, type BuildDocument } from "./build";
import { addWorkload, moveIn, removeWorkload } from "./workloads";

const place = (id: string) => ({ id, temperature_kind: "chip_sensor" as const, power_share: 1, limits: [] });
const source = (id: string, name: string) => ({
  id,
  kind: "source" as const,
  name,
  power_kind: "package" as const,
  places: [place(`${id}-place`)],
});

function build(): BuildDocument {
  return opened({
    format: "krill-build",
    version: 1,
    name: "two sources",
    rooms: [{ id: "room", air_c: 24 }],
    parts: [source("chip", "Chip"), source("card", "Card")],
    zones: [{ id: "out", kind: "outside", room: "room" }],
    workloads: [{ id: "full", name: "Full", watts: { chip: 65, card: 120.4 }, movers: { fan: { duty: 0.6 } } }],
    brief: { worst_workloads: ["full"] },
  } as never);
}

describe("workloads", () => {
  it("that are blank know every source at no watts and tell movers as the last one did", () => {
    const draft = build();
    const id = addWorkload(draft, { kind: "blank" });
    expect(draft.workloads.at(-1)).toEqual({
      id,
      name: "Workload",
      watts: { chip: 0, card: 0 },
      movers: { fan: { duty: 0.6 } },
    });
  });

  it("copied stand behind the one they are copied from, under a name of their own", () => {
    const draft = build();
    addWorkload(draft, { kind: "blank" });
    const id = addWorkload(draft, { kind: "copy", of: "full" });
    addWorkload(draft, { kind: "copy", of: "full" });
    expect(draft.workloads.map((w) => w.name)).toEqual(["Full", "Full, copy 2", "Full, copy", "Workload"]);
    expect(draft.workloads.find((w) => w.id === id)!.watts).toEqual({ chip: 65, card: 120.4 });
    draft.workloads.find((w) => w.id === id)!.watts["chip"] = 1;
    expect(draft.workloads[0]!.watts["chip"]).toBe(65);
  });

  it("of the usual set are idle, each source alone and all at once, of the most that each source draws", () => {
    const draft = build();
    expect(addWorkload(draft, { kind: "set" })).toBe("idle");
    expect(draft.workloads.slice(1).map((w) => [w.name, w.watts])).toEqual([
      ["Idle", { chip: 6.5, card: 12 }],
      ["Chip alone", { chip: 65, card: 12 }],
      ["Card alone", { chip: 6.5, card: 120.4 }],
      ["All at once", { chip: 65, card: 120.4 }],
    ]);
    addWorkload(draft, { kind: "set" });
    expect(draft.workloads).toHaveLength(5);
  });

  it("of machines are idle, each machine alone and all at once", () => {
    const draft = build();
    draft.machines = [{ id: "a", name: "Machine A" }, { id: "b" }] as never;
    draft.parts.find((part) => part.id === "chip")!.machine = "a";
    draft.parts.find((part) => part.id === "card")!.machine = "b";
    expect(addWorkload(draft, { kind: "machines" })).toBe("idle");
    expect(draft.workloads.slice(1).map((w) => [w.name, w.watts])).toEqual([
      ["Idle", { chip: 6.5, card: 12 }],
      ["Machine A alone", { chip: 65, card: 12 }],
      ["b alone", { chip: 6.5, card: 120.4 }],
      ["All at once", { chip: 65, card: 120.4 }],
    ]);
  });

  it("taken out leave the brief, too, and the last one stays", () => {
    const draft = build();
    const id = addWorkload(draft, { kind: "blank" });
    removeWorkload(draft, "full");
    expect(draft.workloads.map((w) => w.id)).toEqual([id]);
    expect(draft.brief!.worst_workloads).toEqual([]);
    removeWorkload(draft, id);
    expect(draft.workloads).toHaveLength(1);
  });

  it.each([
    ["b", -1, "bac"],
    ["b", 1, "acb"],
    ["a", -1, "abc"],
    ["c", 1, "abc"],
    ["x", 1, "abc"],
  ] as const)("%s moved by %i is %s", (id, by, order) => {
    const list = [..."abc"].map((one) => ({ id: one }));
    moveIn(list, id, by);
    expect(list.map((item) => item.id).join("")).toBe(order);
  });
});
