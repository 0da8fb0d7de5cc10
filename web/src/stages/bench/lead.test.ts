import { describe, expect, it } from "vitest";
import { leadOf } from "./lead";

const channel = (role: string, values: (number | null)[]) => ({ role, name: role, minutes: [0, 1, 2], values });
const place = (address: string, limit_c: number | null) => ({ address, name: address.toUpperCase(), limit_c });

describe("the figure to read from a metre away", () => {
  it("is the last one of the part closest to its limit", () => {
    const series = { channels: [channel("a/temperature", [50, 70, 71]), channel("b/temperature", [40, 60, null])] };
    const found = leadOf(series as never, [place("a", 95), place("b", 70)] as never, 0, 2);
    expect(found).toEqual({ name: "B", celsius: 60, spare: 10, minute: 1 });
  });

  it("does not look at what cools after the load, and counts minutes of load", () => {
    const series = { channels: [channel("a/temperature", [50, 70, 40])] };
    expect(leadOf(series as never, [place("a", 95)] as never, 0.5, 1.5)).toMatchObject({ celsius: 70, minute: 0.5 });
  });

  it("is none where no part with a limit was logged", () => {
    const series = { channels: [channel("a/temperature", [50, 70, 71]), channel("loop/coolant_hot", [30, 31, 32])] };
    expect(leadOf(series as never, [place("a", null)] as never, 0, 2)).toBeNull();
    expect(leadOf({ channels: [] } as never, [] as never, 0, 2)).toBeNull();
  });
});
