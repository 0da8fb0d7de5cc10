import { describe, expect, it } from "vitest";
import type { WorkloadResult } from "$lib/api/client";
import type { BuildDocument } from "$lib/document/build";
import { closed, elsewhere, mouths, nearby, stations } from "./model";

const document = {
  parts: [
    { id: "fan", kind: "fan", face: "front" },
    { id: "grille", kind: "opening", face: "front" },
    { id: "vent", kind: "opening", face: "back" },
    { id: "gap", kind: "opening", face: "bottom" },
    { id: "blower", kind: "fan", face: "left" },
    { id: "outlet-a", kind: "opening", face: "top" },
    { id: "outlet-b", kind: "opening", face: "right" },
  ],
  zones: [
    { id: "out", kind: "outside" },
    { id: "one", kind: "box" },
    { id: "two", kind: "box" },
  ],
  air_paths: [
    { id: "in", from_zone: "out", to_zone: "one", elements: ["grille", "fan"] },
    { id: "on", from_zone: "one", to_zone: "two", elements: ["gap"] },
    { id: "ex", from_zone: "two", to_zone: "out", elements: ["vent"] },
    { id: "duct", from_zone: "out", to_zone: "out", elements: ["blower", { parallel: [["outlet-a"], ["outlet-b"]] }] },
  ],
  housing: { feet_mm: 12, nearby_mm: { back: 40 }, closed_faces: ["right"] },
} as unknown as BuildDocument;

const path = (address: string, from_zone: string, to_zone: string) => ({
  address,
  name: address,
  from_zone,
  to_zone,
  airflow_m3_h: 30,
  inlet_c: 21,
  outlet_c: 35,
});
const result = {
  paths: [path("in", "out", "one"), path("on", "one", "two"), path("ex", "two", "out"), path("duct", "out", "out")],
  air: [
    { address: "blower", airflow_m3_h: 30 },
    { address: "outlet-a", airflow_m3_h: 18 },
    { address: "outlet-b", airflow_m3_h: 12 },
  ],
} as unknown as WorkloadResult;

describe("where air crosses the faces", () => {
  const found = mouths(document, result);
  const at = (face: string) => found.find((mouth) => mouth.face === face)!;

  it("enters where a path comes from outside and leaves where it ends there", () => {
    expect([at("front").into, at("front").celsius, at("front").chamber]).toEqual([true, 21, "one"]);
    expect([at("back").into, at("back").celsius, at("back").chamber]).toEqual([false, 35, "two"]);
  });

  it("parts the flow of a duct over its outlets", () => {
    expect([at("left").into, at("left").flow]).toEqual([true, 30]);
    expect([at("top").into, at("top").flow]).toEqual([false, 18]);
    expect([at("right").into, at("right").flow]).toEqual([false, 12]);
  });

  it("turns an arrow where air flows against its path", () => {
    const back = { ...result, paths: [path("in", "one", "out")] } as WorkloadResult;
    expect(mouths(document, back)[0]).toMatchObject({ face: "front", into: false, celsius: 35 });
  });

  it("lists what crosses no face apart", () => {
    expect(elsewhere(document, result).map((p) => p.address)).toEqual(["on"]);
  });

  it("knows what stands close and what is closed", () => {
    expect([nearby(document, "bottom"), nearby(document, "back"), nearby(document, "top")]).toEqual([
      12,
      40,
      undefined,
    ]);
    expect([closed(document, "right"), closed(document, "left")]).toEqual([true, false]);
  });
});

it("stands beside the housing where a path begins and ends outside and crosses no face", () => {
  expect(stations(document, result)).toEqual([]);
  const bare = document.parts.map(({ id, kind }) => ({ id, kind }));
  const outside = { ...document, parts: bare } as unknown as BuildDocument;
  expect(stations(outside, result).map((station) => station.address)).toEqual(["duct"]);
});
