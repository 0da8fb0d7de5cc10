import { describe, expect, it } from "vitest";
import { apart, at, lostWork, ofFirmware, onRuler, risen, type InTime } from "./time";

describe("labels", () => {
  it("stay where they belong where there is room", () => {
    expect(apart([10, 60, 110], 15, 200)).toEqual([10, 60, 110]);
  });
  it("keep their order and their distance where they crowd", () => {
    expect(apart([50, 52, 51], 15, 200)).toEqual([50, 80, 65]);
  });
  it("are pushed up by the bottom", () => {
    expect(apart([190, 195], 15, 200)).toEqual([185, 200]);
  });
});

describe("values", () => {
  const minutes = [-5, 0, 10, 20];
  it("lie between the answer's minutes in proportion, and end with it", () => {
    expect(at(minutes, [20, 20, 40, 50], 5)).toBe(30);
    expect(at(minutes, [20, 20, 40, 50], 99)).toBe(50);
    expect(at(minutes, [20, 20, 40, 50], -9)).toBe(20);
    expect(at(minutes, null, 5)).toBeNull();
  });
  it("tell what share of its rise a curve has done", () => {
    const told = { minutes, curves: [] } as unknown as InTime;
    const curve = { c: [20, 20, 40, 50], settles_c: 60 } as InTime["curves"][number];
    expect(risen(told, curve, 10)).toBe(0.5);
    expect(risen(told, { ...curve, settles_c: 20.4 }, 10)).toBeNull();
  });
});

describe("times", () => {
  it("stand on one logarithmic ruler", () => {
    expect(onRuler(0.1)).toBe(0);
    expect(onRuler(14_400)).toBe(1);
    expect(onRuler(0.001)).toBe(0);
    expect(onRuler(37.95)).toBeCloseTo(0.5, 2);
  });
});

describe("what a firmware adds to its limit", () => {
  const held = (over: Partial<InTime["held_back"][number]>) =>
    ofFirmware({
      source: "graphics",
      name: "Graphics",
      share_of_time: 0.4,
      lost_w: 20,
      full_w: 200,
      clock_share: null,
      work_share: null,
      late_s: { low: 0.5, high: 2 },
      over_k: 0.34,
      gives_back_k: { low: 1, high: 3 },
      ...over,
    });

  it("says how late it is, how far a place goes, and what is read then", () => {
    expect(held({})).toBe(
      "Its firmware acts 0.5 to 2.0 s after the limit is met: 0.3 K over it at most. " +
        "It gives watts back 1 to 3 K below: what a sensor reads swings, 1 K under the limit on average.",
    );
  });

  it("says nothing of a lag of milliseconds, nor of what nobody knows", () => {
    expect(held({ late_s: { low: 0.001, high: 0.01 }, gives_back_k: null })).toBe("");
    expect(held({ late_s: null, gives_back_k: null })).toBe("");
    expect(held({ late_s: { low: 0, high: 0.1 }, over_k: 0.04, gives_back_k: null })).toBe(
      "Its firmware acts 0.0 to 0.1 s after the limit is met: nothing is seen of that.",
    );
    expect(held({ gives_back_k: null, over_k: 0.05 })).toContain("0.1 K over it at most");
  });
});

describe("work that is lost", () => {
  it("lies between work that waits and work that follows the clock", () => {
    expect(lostWork({ low: 0.93, high: 0.96 })).toBe("4 to 7");
    expect(lostWork({ low: 0.997, high: 0.998 })).toBe("0");
  });
});
