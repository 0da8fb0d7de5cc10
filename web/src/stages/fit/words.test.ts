import { describe, expect, it } from "vitest";
import { opened, type BuildDocument } from "$lib/document/build";
import { waysOut } from "./ways";
import { asides, contactHead, contactTone, headOf, sentenceOf, toneOf, type ContactFit, type StackFit } from "./words";

const STACK: StackFit = {
  slot: "s",
  name: "Front",
  gap_mm: 63,
  gap_half_mm: 0.5,
  takes_mm: 65,
  left_mm: -2,
  half_mm: 1.3,
  says: "does not fit",
  standing: [],
  unknown: [],
  to_measure: [],
  breathes: "starved",
  wants_mm: 13.2,
  span_mm: 120,
  blades_mm: null,
  blades_half_mm: null,
  rubs_on: null,
  screws: null,
};

describe("a slot in words", () => {
  it.each([
    ["fits", "good", "Goes in"],
    ["fits by class", "warn", "Goes in by class figures"],
    ["measure", "warn", "Measure: the tolerance decides"],
    ["does not fit", "bad", "Does not go in"],
  ] as const)("%s", (says, tone, head) => {
    expect(toneOf(says)).toBe(tone);
    expect(headOf({ ...STACK, says })).toBe(head);
  });

  it("names what has no thickness", () => {
    const unknown = { ...STACK, says: "unknown" as const, takes_mm: null, left_mm: null, unknown: ["Duct"] };
    expect(headOf(unknown)).toBe("Unknown: Duct has no thickness");
    expect(headOf({ ...unknown, unknown: ["Duct", "Lead", "Clip"] })).toBe(
      "Unknown: Duct and 2 more have no thickness",
    );
  });

  it("says how it breathes only where something is left", () => {
    expect(sentenceOf(STACK)).toBe("The stack takes 65.0 of 63.0 mm.");
    expect(sentenceOf({ ...STACK, left_mm: 3, takes_mm: 60 })).toBe(
      "The stack takes 60.0 of 63.0 mm; with 3.0 mm it is starved.",
    );
  });

  it("tells of blades and screws by their worst", () => {
    const rub = { ...STACK, blades_half_mm: 0.6, rubs_on: "the filter" };
    expect(asides({ ...rub, blades_mm: 0.61 })).toEqual([]);
    expect(asides({ ...rub, blades_mm: 0.2 })[0]).toEqual({
      tone: "warn",
      text: "Blades keep 1.2 ± 0.6 mm to the filter: they may rub (1.0 wanted).",
    });
    expect(asides({ ...rub, blades_mm: -0.7 })[0]!.tone).toBe("bad");
    const screws = { length_mm: 30, hold_mm: 3.5, before_tube_mm: 2.5, half_mm: 2, says: "fit" as const };
    expect(asides({ ...STACK, screws })[0]).toEqual({
      tone: "good",
      text: "Screws of 30 mm end 2.5 ± 2.0 mm before the tubes.",
    });
    expect(asides({ ...STACK, screws: { ...screws, says: "too short", hold_mm: -2 } })[0]!.text).toContain(
      "hold 0.0 mm",
    );
    expect(asides({ ...STACK, screws: { ...screws, says: "reach the tubes", before_tube_mm: -1 } })[0]!.tone).toBe(
      "bad",
    );
  });
});

const JOINT: ContactFit["joints"][number] = {
  joint: "memory",
  name: "Memory",
  interface: null,
  height_mm: 1.15,
  height_half_mm: 0.1,
  gap_mm: 1.1,
  half_mm: 0.1,
  filler: "pad",
  pad_mm: 0.75,
  pressed: -0.47,
  pressure_kpa: 0,
  force_n: null,
  air_mm: 0.35,
  resistance_mm2k_w: 12700,
  resistance_from: 9000,
  resistance_to: 16000,
  says: "floats",
  take_mm: 1.5,
  choices: [],
};
const CONTACT: ContactFit = {
  contact: "c",
  name: "Under the plate",
  plate: null,
  lifted_mm: 0,
  carried_by: null,
  force_n: 250,
  pads_n: 100,
  chip_n: 150,
  bond_factor: 1.05,
  coverage: 1,
  says: "floats",
  worst: "memory",
  joints: [JOINT],
  to_measure: [],
};

describe("a contact in words", () => {
  it("floats, rests, or takes too much force", () => {
    expect(contactHead(CONTACT)).toBe("Floats by 0.35 mm over Memory");
    expect(contactTone(CONTACT)).toBe("bad");
    const rests = { ...CONTACT, lifted_mm: 0.2, carried_by: "memory" };
    expect(contactHead(rests)).toBe("Rests on Memory: the chip floats by 0.20 mm");
    const touches = { ...CONTACT, says: "touches" as const, joints: [{ ...JOINT, says: "touches" as const }] };
    expect([contactHead(touches), contactTone(touches)]).toEqual(["Touches everywhere", "good"]);
    const weak = { ...touches, chip_n: 124 };
    expect([contactHead(weak), contactTone(weak)]).toEqual([
      "Touches, but the pads take more than half the force",
      "warn",
    ]);
    expect(contactTone({ ...touches, chip_n: 125 })).toBe("good");
    expect(contactTone({ ...touches, bond_factor: 1.4 })).toBe("warn");
  });
});

describe("ways out", () => {
  const document = opened({
    format: "krill-build",
    version: 1,
    name: "Ways",
    rooms: [],
    parts: [
      { id: "fan", kind: "fan", name: "Fan", class: "fan_120x25" },
      { id: "radiator", kind: "radiator", name: "Radiator", section_mm: 120, sections: 1, thickness_mm: 38 },
    ],
  } as never) as BuildDocument;
  const row = (id: string, size: number, thick: number) => ({
    id,
    kind: "fan",
    name: id,
    figures: { size_mm: [size, 0], thickness_mm: [thick, 0] },
  });
  const classes = [row("fan_120x25", 120, 25), row("fan_120x15", 120, 15), row("fan_92x14", 92, 14)];
  const item = (part: string, mm: number) => ({
    part,
    kind: "",
    name: part,
    thickness_mm: mm,
    thickness_half_mm: 0.3,
    from_mm: 0,
    to_mm: mm,
    half_mm: 0.3,
    origin: "class",
  });
  const fit = { ...STACK, standing: [item("fan", 25), item("radiator", 38)] };
  const slot = { id: "s", gap_mm: 63, stack: ["fan", "radiator"] };

  it("are thinner kinds of what stands in it, what fits with the least change first", () => {
    const found = waysOut(document, slot, fit, classes);
    expect(found.map((way) => [way.label, way.leftMm])).toEqual([
      ["Fan: fan_120x15", 8],
      ["Radiator: 38 → 28 mm", 8],
    ]);
    const draft = structuredClone(document);
    for (const way of found) way.change(draft);
    expect(draft.parts[1]).toMatchObject({ thickness_mm: 28 });
    expect(draft.parts[0]).toMatchObject({ class: "fan_120x15" });
  });

  it("are parts of the shelf that go there, exchanged where they stand", () => {
    const shelf = [
      { id: "slim", name: "Slim one", own: true, by: "", part: { kind: "fan", size_mm: 120, thickness_mm: 17 } },
      { id: "small", name: "Small one", own: true, by: "", part: { kind: "fan", size_mm: 92, thickness_mm: 14 } },
      { id: "thick", name: "Thick one", own: true, by: "", part: { kind: "fan", size_mm: 120, thickness_mm: 25 } },
      { id: "theirs", name: "Class one", own: false, by: "", part: { kind: "fan", class: "fan_120x15" } },
    ] as never[];
    const placed = structuredClone(document);
    placed.parts[0]!.outline = { position_mm: [1, 2, 3] };
    const found = waysOut(placed, slot, fit, classes, shelf).filter((way) => way.label.includes("shelf"));
    expect(found.map((way) => [way.label, way.leftMm])).toEqual([["Fan: Slim one, of the shelf", 6]]);
    found[0]!.change(placed);
    expect(placed.parts[0]).toMatchObject({
      id: "fan",
      name: "Slim one",
      thickness_mm: 17,
      outline: { position_mm: [1, 2, 3] },
    });
  });

  it("are none where nobody knows what it takes", () => {
    expect(waysOut(document, slot, { ...fit, left_mm: null }, classes)).toEqual([]);
  });
});
