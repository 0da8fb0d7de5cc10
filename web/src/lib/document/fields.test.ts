import { describe, expect, it } from "vitest";
import { opened } from "./build";
import { addable, fieldsOf, fieldsOfKind, GROUPS, labelOf, modelOf, rowsOf, unitOf } from "./fields";

const document = opened({
  format: "krill-build",
  version: 1,
  name: "B",
  rooms: [{ id: "room", air_c: 24 }],
  zones: [{ id: "box", kind: "box" }],
  parts: [
    { id: "cpu", kind: "source", places: [{ id: "core", temperature_kind: "chip_sensor" }] },
    { id: "rad", kind: "radiator", section_mm: 120, sections: 2, thickness_mm: 28 },
  ],
  loops: [{ id: "loop", elements: ["rad"] }],
});

describe("fields by the published schema", () => {
  it("know their label, unit, range and group", () => {
    const { dust, level_dba } = { ...fieldsOfKind("radiator"), ...fieldsOfKind("fan") };
    expect(dust).toMatchObject({ label: "dust", low: 0, high: 1, group: "state", figure: true });
    expect(level_dba).toMatchObject({ unit: "dBA", low: -100, high: 300, group: "sound" });
    expect(fieldsOfKind("heat_pipe")["lift_mm"]).toMatchObject({ low: -Infinity, high: Infinity, unit: "mm" });
    expect(fieldsOfKind("radiator")["sections"]).toMatchObject({ whole: true, figure: false });
    expect(fieldsOfKind("sink")["stands"]).toMatchObject({ empty: false, assumed: "upright" });
    expect(fieldsOfKind("sink")["finish"]).toMatchObject({ empty: true, assumed: undefined });
    expect(fieldsOfKind("nonsense")).toEqual({});
  });
  it("stand in a group that a sheet shows", () => {
    const groups = ["fan", "radiator", "sink", "pump", "interface"].flatMap((kind) =>
      Object.values(fieldsOfKind(kind)).map((field) => field.group),
    );
    expect(new Set(groups.filter((group) => group !== "cost" && !GROUPS.includes(group)))).toEqual(new Set());
  });
  it("belong to what an id belongs to", () => {
    const [cpu, rad] = document.parts;
    expect(modelOf(document, cpu!)).toBe("Source");
    expect(modelOf(document, rad!)).toBe("Radiator");
    expect(modelOf(document, document.rooms[0]!)).toBe("Room");
    expect(modelOf(document, document.zones[0]!)).toBe("Zone");
    expect(modelOf(document, document.loops[0]!)).toBe("Loop");
    expect(modelOf(document, { id: "core", temperature_kind: "chip_sensor" })).toBe("Place");
  });
  it("are named also where their owner is gone", () => {
    expect([labelOf("chip_mm2k_w"), unitOf("chip_mm2k_w")]).toEqual(["chip, to its top", "mm²·K/W"]);
    expect([labelOf("joint_mm2k_w", "Bond"), labelOf("no_such_key"), unitOf("factor")]).toEqual([
      "joint in the seam",
      "no such key",
      "",
    ]);
  });
});

describe("rows of a sheet", () => {
  const fields = fieldsOf("Radiator");
  const keys = (byClass: Record<string, number[]>, added: string[] = []) =>
    rowsOf(fields, { ...document.parts[1], factor: { value: 1.1, from: "measured" } }, byClass, added).map(
      (row) => [row.field.key, row.byClass] as const,
    );
  it("are what is stated, what the class gives, and what is about to be stated", () => {
    expect(keys({}).map(([key]) => key)).toEqual(["factor", "section_mm", "sections", "thickness_mm"]);
    expect(keys({ dust: [0, 0] })).toContainEqual(["dust", [0, 0]]);
    expect(keys({ factor: [1, 0.2] })).toContainEqual(["factor", undefined]);
    expect(keys({}, ["covered_share"]).map(([key]) => key)).toContain("covered_share");
  });
  it("leave the rest to be added, but for what it costs", () => {
    const rows = rowsOf(fields, document.parts[1]!, {}, []);
    const left = addable(fields, rows).map((field) => field.key);
    expect(left).toContain("dust");
    expect(left).not.toContain("price");
    expect(left).not.toContain("sections");
  });
});
