// @vitest-environment jsdom
import { beforeEach, describe, expect, it } from "vitest";
import { Card } from "./card.svelte";
import type { Reading } from "./readings";

const reading = (minute: number): Reading => ({
  minute,
  role: "cpu/temperature",
  value: 60,
  kind: "now",
  load_on: true,
});

function cardOf(build = "b"): Card {
  const card = new Card();
  card.open(build);
  return card;
}

describe("the card of a test", () => {
  beforeEach(() => localStorage.clear());

  it("counts minutes from when the load came on, to a tenth", () => {
    const card = cardOf();
    expect(card.minute(1_000_000)).toBe(0);
    card.loadOn("both", 1_000_000);
    expect(card.minute(1_000_000 + 150_000)).toBe(2.5);
    card.loadOff();
    expect(card.started).toBeNull();
  });

  it("keeps what was read over a reload, each reading with its load", () => {
    const card = cardOf();
    card.loadOn("idle", 1);
    card.add("idle", [reading(60)]);
    card.loadOn("both", 2);
    card.add("both", [reading(5), reading(20)]);
    const again = cardOf();
    expect(again.started).toBe(2);
    expect(again.kept.readings.map((one) => [one.window, one.minute])).toEqual([
      ["idle", 60],
      ["both", 5],
      ["both", 20],
    ]);
    expect(again.windows.map((one) => one.workload)).toEqual(["idle", "both"]);
    expect(cardOf("other").kept.readings).toEqual([]);
  });

  it("leaves out loads in which nothing was read, and goes on with its clock once they are kept", () => {
    const card = cardOf();
    card.loadOn("idle", 1);
    card.loadOn("both", 2);
    card.add("both", [reading(5)]);
    expect(card.windows.map((one) => one.id)).toEqual(["both"]);
    card.clear();
    expect([card.windows, card.started]).toEqual([[], 2]);
  });

  it("begins empty where something else lies in its place", () => {
    localStorage.setItem("test-card:b", "{broken");
    expect(cardOf().kept.readings).toEqual([]);
  });
});
