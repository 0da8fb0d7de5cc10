import { describe, expect, it } from "vitest";
import { clock, day, fixed, half, parseNumber, signed, significant, watts } from "./format";

describe("numbers on the screen", () => {
  it("keep their decimals and a real minus sign", () => {
    expect(fixed(12.345)).toBe("12.3");
    expect(fixed(-0.04)).toBe("0.0");
    expect(fixed(-3.25, 2)).toBe("−3.25");
    expect(fixed(null)).toBe("–");
    expect(signed(3.4)).toBe("+3.4");
    expect(signed(-3.4)).toBe("−3.4");
    expect(watts(6)).toBe("6.0 W");
    expect(watts(125.4)).toBe("125 W");
    expect(half({ low: 60, high: 71 })).toBe(5.5);
  });
  it("are read with comma or point, or not at all", () => {
    expect(parseNumber("12,5")).toBe(12.5);
    expect(parseNumber("−3")).toBe(-3);
    expect(parseNumber("12x")).toBeNull();
    expect(parseNumber("")).toBeNull();
  });
});

describe("a figure of any size", () => {
  it("keeps the digits that count", () => {
    expect(significant(0.00312345)).toBe("0.003123");
    expect(significant(-12.5)).toBe("−12.5");
    expect(significant(220)).toBe("220");
    expect(significant(null)).toBe("–");
  });
});

describe("days and times", () => {
  it("read the same everywhere", () => {
    expect(day(new Date(2026, 10, 6, 9, 5))).toBe("6 Nov 2026");
    expect(clock(new Date(2026, 10, 6, 9, 5))).toBe("09:05");
    const zone = process.env["TZ"];
    for (const west of ["America/Los_Angeles", "Pacific/Auckland", "UTC"]) {
      process.env["TZ"] = west;
      expect(day("2026-01-02")).toBe("2 Jan 2026");
    }
    process.env["TZ"] = zone;
    expect(day("2026-03-01T12:00:00")).toBe("1 Mar 2026");
    expect(day("2026-09-30T12:00:00")).toBe("30 Sep 2026");
    expect(clock("2026-09-30T00:07:59")).toBe("00:07");
  });
});
