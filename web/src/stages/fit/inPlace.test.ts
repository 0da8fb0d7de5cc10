import { describe, expect, it } from "vitest";
import type { Schemas } from "$lib/api/client";
import { adapterSays, softens, startOf } from "./adapterWords";
import {
  besideSays,
  floorSays,
  heightSays,
  jointSays,
  leadLength,
  leadSays,
  leadTone,
  reachedSays,
  shortSays,
} from "./inPlace";

const lead = (change: Partial<Schemas["LeadFit"]> = {}): Schemas["LeadFit"] => ({
  lead: "lead",
  name: "Feed",
  is_tube: false,
  outside_mm: 8,
  path_mm: 380,
  longest_mm: 380,
  order_mm: 420,
  stated_mm: null,
  says: "to order",
  bends: [],
  near: [],
  through: [],
  ends: [],
  ...change,
});
const bend = (says: "lies" | "measure" | "kinks") => ({
  at_mm: [0, 0, 0] as [number, number, number],
  turn_deg: 90,
  radius_mm: 12,
  least_mm: 22,
  half_mm: 5.5,
  says,
});
const end = (says: "free" | "tight" | "too thick") => ({
  lead: "lead",
  end: "ends" as const,
  what: "room",
  wants_mm: 46,
  has_mm: 30,
  says,
});

describe("a lead", () => {
  it("says how long it is, and what to order or cut", () => {
    expect(leadLength(lead())).toBe("way 380 mm, order 420");
    expect(leadLength(lead({ is_tube: true, order_mm: 392 }))).toBe("way 380 mm, cut 392");
    expect(leadLength(lead({ stated_mm: 400 }))).toBe("way 380 mm, has 400");
    expect(leadLength(lead({ path_mm: null, says: "unknown" }))).toBe("no points yet");
    expect(leadLength(lead({ path_mm: null, stated_mm: 300 }))).toBe("300 mm");
  });
  it("tells the gravest first", () => {
    const said = leadSays(
      lead({ bends: [bend("measure"), bend("kinks"), bend("lies")], ends: [end("tight"), end("free")] }),
    );
    expect(said.map((one) => one.tone)).toEqual(["bad", "warn", "warn"]);
    expect(said[0]!.text).toBe("kinks: room for a bend of 12 mm, it takes 22 ± 6");
    expect(said[2]!.text).toBe("room: 30 of 46 mm");
  });
  it.each([
    [lead(), "good"],
    [lead({ says: "unknown", path_mm: null }), "plain"],
    [lead({ says: "taut", stated_mm: 400 }), "warn"],
    [lead({ says: "does not reach", stated_mm: 300 }), "bad"],
    [lead({ near: [{ fan: "f", name: "Fan", mm: 4 }] }), "bad"],
    [lead({ through: ["Radiator"] }), "bad"],
    [lead({ ends: [end("too thick")] }), "warn"],
  ] as const)("is %#: %s", (fit, tone) => expect(leadTone(fit)).toBe(tone));
});

it("tells who is in the way, and what a closed face wants", () => {
  const one = { part: "p", name: "Clip", face: "top" as const, by: "hand" as const, wants_mm: 80, in_the_way: ["Lid"] };
  expect(reachedSays({ ...one, says: "reached" })).toEqual({ tone: "good", text: "Clip: a hand gets there" });
  expect(reachedSays({ ...one, says: "in the way" })).toEqual({ tone: "bad", text: "Clip: Lid in the way" });
  expect(reachedSays({ ...one, says: "closed" }).tone).toBe("warn");
});

it("tells what wants a sheet", () => {
  const one = { live: "b", live_name: "Board", metal: "bottom", metal_name: "the bottom", apart_mm: 2, wants_mm: 3 };
  expect(shortSays({ ...one, says: "insulate" }).text).toBe("Board, 2.0 mm from the bottom: 3 mm of air, or a sheet");
  expect(shortSays({ ...one, says: "insulated" }).tone).toBe("good");
  expect(shortSays({ ...one, says: "too near" }).tone).toBe("bad");
});

describe("heights", () => {
  const check = (change: Partial<Schemas["HeightCheck"]>) =>
    heightSays({
      of: "reservoir over pump",
      about: "t",
      name: "Tank",
      against: "Pump",
      mm: 40,
      well: true,
      known: true,
      ...change,
    });
  it.each([
    [{}, "good", "Tank stands 40 mm over Pump"],
    [{ mm: -12, well: false }, "bad", "Tank stands 12 mm below Pump"],
    [{ of: "fill on top", mm: -20, well: false }, "warn", "Tank, filled there, lies 20 mm below Pump"],
    [{ of: "drain below", mm: -20, well: false }, "warn", "Tank, emptied there, lies 20 mm above Pump"],
    [{ of: "air gathers", mm: 30, well: false }, "warn", "Tank stands 30 mm over Pump: air gathers there"],
    [{ of: "feet", mm: 0, well: false, known: false, against: "13 mm" }, "plain", "nobody told"],
  ] as const)("%o is %s", (change, tone, text) => {
    const said = check(change as Partial<Schemas["HeightCheck"]>);
    expect(said.tone).toBe(tone);
    expect(said.text).toContain(text);
  });
});

describe("joints and what is beside heat", () => {
  const joint: Schemas["JointHolds"] = {
    holding: "h",
    name: "Drive",
    joint: "tape",
    weight_n: 0.5,
    weight_half_n: 0.1,
    carries_n: 2,
    carries_half_n: 0.8,
    at_c: 50,
    says: "holds",
    by_car: "unknown",
    note: "",
  };
  it("carry so much at their temperature", () => {
    expect(jointSays(joint)).toEqual({ tone: "good", text: "carries 2.0 ± 0.8 N at 50 °C, 0.5 N hang on it" });
    expect(jointSays({ ...joint, at_c: null }).text).toContain("at 25 °C");
    expect(jointSays({ ...joint, says: "in doubt" }).tone).toBe("warn");
    expect(jointSays({ ...joint, weight_n: null }).tone).toBe("plain");
    expect(jointSays({ ...joint, by_car: "lets go" })).toMatchObject({ tone: "bad" });
  });
  it("stay cool or not", () => {
    const one = { near_heat: "n", name: "Board", what: "wood", under_c: 80, at_c: 40, says: "stays cool" as const };
    expect(besideSays(one)).toEqual({ tone: "good", text: "gets 40 °C, stays under 80 °C for years" });
    expect(besideSays({ ...one, says: "too hot" }).tone).toBe("bad");
    expect(besideSays({ ...one, at_c: null }).tone).toBe("plain");
  });
});

describe("an adapter", () => {
  const says: Schemas["AdapterSays"] = {
    plastic_cm3: 52.3,
    mass_g: 66,
    size_mm: [143, 143, 40],
    steepest_deg: 10,
    supports: false,
    stands_on: "its first opening",
    pieces: 1,
    bed_mm: 180,
    softens_c: 70,
    at_most_c: 60,
  };
  it("says what printing it takes", () => {
    expect(adapterSays(says)).toBe(
      "52.3 cm³, about 66 g of plastic, 143 × 143 × 40 mm; print it standing on its first opening, without supports; it takes a bed of 180 mm.",
    );
    expect(adapterSays({ ...says, supports: true, steepest_deg: 50 })).toContain("with supports: it leans 50°");
    expect(adapterSays({ ...says, supports: true })).toContain(", with supports;");
    expect(adapterSays({ ...says, pieces: 3, bed_mm: null })).toContain("3 pieces, no higher than 240 mm");
  });
  it("holds its plastic against what it stands beside", () => {
    expect(softens(says, undefined).tone).toBe("plain");
    expect(softens(says, { name: "Box air", at: 60 })).toMatchObject({ tone: "plain" });
    expect(softens(says, { name: "Box air", at: 60.1 })).toMatchObject({ tone: "bad" });
  });
  it("begins with a duct of the build, else with its first fan", () => {
    const fan = { id: "f", kind: "fan", class: "fan_92x25" };
    const duct = { id: "d", kind: "duct", length_m: 0.08, width_mm: 60, height_mm: { value: 28 } };
    expect(startOf({ parts: [fan, duct] } as never)).toEqual({
      first: "square",
      first_mm: 60,
      first_high_mm: 28,
      second: "square",
      second_mm: 60,
      second_high_mm: 28,
      length_mm: 80,
    });
    expect(startOf({ parts: [{ ...duct, height_mm: null }, fan] } as never)).toEqual({
      first_mm: 89,
      first_fan_mm: 92,
    });
    expect(startOf({ parts: [{ id: "f", kind: "fan", size_mm: 140 }] } as never)).toEqual({
      first_mm: 135,
      first_fan_mm: 140,
    });
    expect(startOf({ parts: [] } as never)).toEqual({});
  });
});

it("tells how far a floor sinks", () => {
  const sag = {
    floor: "steel",
    thickness_mm: 0.8,
    weight_n: 48,
    spread_mm: 0.5,
    middle_mm: 1.5,
    at_most_mm: 0.95,
  } as const;
  expect(floorSays({ ...sag, says: "in doubt" })).toEqual({
    tone: "warn",
    text: "The floor, 0.8 mm of steel, sinks by 0.5 to 1.5 mm in years under 48 N; 0.9 at most",
  });
  expect(floorSays({ ...sag, says: "sinks" }).tone).toBe("bad");
  expect(floorSays({ ...sag, says: "carries" }).tone).toBe("good");
});
