import { describe, expect, it } from "vitest";
import type { PlaceResult, WorkloadResult } from "$lib/api/client";
import { contrast, heat, luminance, textOn } from "./colour";
import { beads, nearest } from "./ring";
import { layOut, tightestFirst, widths } from "./terraces";

function place(address: string, watts: number, drops: number[], terrace = "loop-a"): PlaceResult {
  const shared = {
    address: `${terrace}/over-room`,
    name: "Coolant over room",
    kind: "shared",
    drop_k: 18,
    watts: 340,
    share: 0.3,
    law: null,
    origin: "",
  };
  const own = drops.map((drop_k, i) => ({
    address: `${address}/${i}`,
    name: `hop ${i}`,
    kind: "chip",
    drop_k,
    watts,
    share: 0.1,
    law: null,
    origin: "class",
  }));
  const over = 18 + drops.reduce((a, b) => a + b, 0);
  return {
    address,
    name: address,
    source: address,
    watts,
    temperature_c: 24 + over,
    temperature_kind: "case",
    over_room_k: over,
    band_c: { low: 20 + over, high: 30 + over },
    limit_kind: "throttle",
    limit_c: 95,
    margin_k: 71 - over,
    margin_band_k: null,
    status: "holds",
    because: "",
    terrace,
    hops: [...own, shared],
    throttled: null,
    side_ways: [],
  };
}

const result = {
  room_c: 24,
  places: [place("a", 125, [7, 4, 20]), place("b", 160, [5, 9]), place("c", 3, [30])],
  terraces: [
    { address: "loop-a", kind: "coolant", name: "Loop A", temperature_c: 42, over_room_k: 18, watts: 340, detail: "" },
  ],
} as unknown as WorkloadResult;

describe("kelvin terraces", () => {
  const drawing = layOut(result, 800, 320);
  it("stand on their terrace and end at their temperature", () => {
    const terrace = drawing.terraces[0]!;
    for (const tower of drawing.towers) {
      const bottom = tower.blocks[0]!;
      expect(bottom.y + bottom.height).toBeCloseTo(terrace.y, 6);
      expect(tower.blocks.at(-1)!.y).toBeCloseTo(tower.top, 6);
    }
  });
  it("give kelvins one scale", () => {
    const [first] = drawing.towers;
    const perKelvin = first!.blocks.map((block) => block.height / block.drop);
    for (const scale of perKelvin) expect(scale).toBeCloseTo(perKelvin[0]!, 9);
  });
  it("draw small hops one above the other as one, until they are opened", () => {
    const small = { ...result, places: [place("a", 125, [2, 1.5, 30, 1]), place("b", 10, [40])] } as WorkloadResult;
    const [a] = layOut(small, 800, 320).towers;
    const pair = a!.blocks.find((block) => block.merged.length)!;
    expect(a!.blocks.map((block) => block.name)).toEqual(["hop 3", "hop 2", "2 small hops"]);
    expect(pair.drop).toBeCloseTo(3.5);
    expect(pair.merged.map((block) => block.name)).toEqual(["hop 1", "hop 0"]);
    expect(pair.y).toBeCloseTo(a!.top, 6);
    const opened = layOut(small, 800, 320, { opened: ["a"] }).towers[0]!;
    expect(opened.blocks).toHaveLength(4);
    expect(opened.blocks.every((block) => !block.merged.length)).toBe(true);
  });
  it("stand with the tightest first, terraces too, and keep an order that is given", () => {
    const places = [place("cool", 10, [5]), place("hot", 10, [60]), place("other", 5, [70], "box")];
    const two = { ...result, places, terraces: [...result.terraces, { ...result.terraces[0]!, address: "box" }] };
    const order = tightestFirst(two as WorkloadResult);
    expect(order).toEqual(["other", "hot", "cool"]);
    const drawn = layOut(two as WorkloadResult, 800, 320, { order });
    expect(drawn.towers.map((one) => one.place.address)).toEqual(["other", "hot", "cool"]);
    const asListed = layOut(two as WorkloadResult, 800, 320);
    expect(asListed.towers.map((one) => one.place.address)).toEqual(["cool", "hot", "other"]);
  });
  it("say how far they stand over their limit", () => {
    const over = { ...place("a", 125, [70]), limit_c: 95 };
    const drawn = layOut({ ...result, places: [over] } as WorkloadResult, 800, 320);
    const [tower] = drawn.towers;
    const perKelvin = tower!.blocks[0]!.height / 70;
    expect(tower!.overshoot).toBeCloseTo(17 * perKelvin, 6);
    expect(drawing.towers[0]!.overshoot).toBe(0);
  });
  it("have eight ticks at most, however hot", () => {
    for (const hot of [5, 40, 80, 150, 400, 3000]) {
      const drawn = layOut({ ...result, places: [place("a", 1, [hot])] } as WorkloadResult, 800, 320);
      expect(drawn.ticks.length).toBeLessThanOrEqual(8);
      expect(drawn.ticks.length).toBeGreaterThanOrEqual(2);
    }
  });
  it("never shrink to slivers: many sources scroll", () => {
    const many = widths([125, 160, 29, 22, 6, 3, 22, 78], 780);
    expect(Math.min(...many)).toBeGreaterThanOrEqual(92);
    expect(many.reduce((a, b) => a + b, 0)).toBeGreaterThan(780);
    expect(many[1]).toBeGreaterThan(many[0]!);
    expect(widths([100, 300], 800)[1]! / widths([100, 300], 800)[0]!).toBeCloseTo(3, 1);
  });
});

describe("the temperature ramp", () => {
  it("gets its text from contrast, at least 4.5 to 1", () => {
    for (let x = 0; x <= 1; x += 0.02) {
      const colour = heat(x);
      const ink: [number, number, number] = textOn(colour) === "rgb(255 255 255)" ? [255, 255, 255] : [5, 7, 8];
      expect(contrast(colour, ink)).toBeGreaterThanOrEqual(4.5);
    }
    expect(luminance([255, 255, 255])).toBeCloseTo(1);
  });
});

describe("the ring", () => {
  it("runs along the top and back along the bottom", () => {
    const list = beads(9, 600, 60, 140);
    expect(list.filter((b) => b.top)).toHaveLength(5);
    expect(list[5]!.x).toBeGreaterThan(list[8]!.x);
    expect(nearest(list, list[3]!.x + 4, 62)).toBe(3);
  });
});
