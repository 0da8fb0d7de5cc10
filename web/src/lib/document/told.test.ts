import { describe, expect, it } from "vitest";
import { toldOf } from "./told";

describe("a part of the shelf in words", () => {
  it("states its own figures with their words and units, bare or with an origin", () => {
    const part = { kind: "radiator", name: "Thick", sections: 3, thickness_mm: { value: 45.5, from: "measured" } };
    expect(toldOf({ kind: "radiator", part }, undefined)).toBe("sections 3 · thickness 45.50 mm");
    expect(toldOf({ kind: "fan", part: { curve: [[0, 20], [50, 0]] } }, undefined)).toBe("curve of 2 points"); // prettier-ignore
  });
  it("tells what its class says where it states nothing: both ends of the curve first, four figures", () => {
    const known = {
      figures: { flow_factor: [1, 0.1], level_dba: [25.123, 3], power_w: [1.8, 0.4], rated_rpm: [1500, 100] },
      curve: [
        [0, 21.4],
        [98.2, 0],
      ],
    };
    const text = toldOf({ kind: "fan", part: { class: "fan_120x25" } }, known as never);
    expect(text.split(" · ")).toHaveLength(4);
    expect(text).toMatch(/^to 98\.2 m³\/h, 21\.4 Pa · /);
    expect(text).toContain("25.1 ± 3 dBA");
    expect(text).not.toContain("factor");
    expect(toldOf({ kind: "fan", part: {} }, undefined)).toBe("");
  });
});
