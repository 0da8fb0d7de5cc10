import { describe, expect, it } from "vitest";
import { lasting, planned } from "./lasting";

describe("times", () => {
  it.each([
    [0.94, "0.9 s"],
    [41.2, "41 s"],
    [119, "119 s"],
    [121, "2 min"],
    [7199, "120 min"],
    [9000, "2.5 h"],
  ])("%s s in words", (seconds, words) => expect(lasting(seconds)).toBe(words));
  it.each([
    [1.2, 5],
    [48, 50],
    [50, 50],
    [119, 120],
    [127.6, 150],
  ])("%s min needed plans %s", (needed, minutes) => expect(planned(needed)).toBe(minutes));
});
