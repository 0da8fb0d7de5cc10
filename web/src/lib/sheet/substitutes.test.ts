import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import type { Part } from "../document/build";
import type { ShelfItem } from "../state/shelf.svelte";
import { larger, standingIn } from "./substitutes";

const one = (part: object) =>
  ({ name: "120 x 25 mm fan", part: { id: "rear", kind: "fan", ...part } }) as unknown as Schemas["Substitute"];
const old = (name?: string) => ({ id: "rear", kind: "fan", ...(name ? { name } : {}) }) as Part;
const item = (own: boolean) => ({ id: "quiet", version: 3, own }) as ShelfItem;

describe("a substitute in a part's place", () => {
  it("keeps the name that the part had, takes its own, or that of the shelf", () => {
    expect(standingIn(old("Rear fan"), one({}), undefined).name).toBe("Rear fan");
    expect(standingIn(old("Rear fan"), one({ name: "Quiet fan" }), undefined).name).toBe("Quiet fan");
    expect(standingIn(old(), one({}), undefined).name).toBe("120 x 25 mm fan");
  });
  it("remembers one's own shelf alone", () => {
    expect(standingIn(old(), one({}), item(true)).from_shelf).toEqual({ item: "quiet", version: 3 });
    expect(standingIn(old(), one({}), item(false)).from_shelf).toBeUndefined();
  });
});

describe("how much larger it is", () => {
  it("names each side, or that none is", () => {
    expect(larger([20, 20, -10])).toBe("+20 × +20 × −10 mm");
    expect(larger([0.4, 0, 0])).toBe("same size");
    expect(larger([0.5, 0, 0])).toContain("mm");
    expect(larger(null)).toBe("size unknown");
  });
});
