// @vitest-environment jsdom
import { describe, expect, it } from "vitest";
import { nearestIn, roving, WAYS } from "./roving";

const at = (x: number, y: number) => ({ x, y });

describe("the nearest that way", () => {
  const middles = [at(10, 0), at(60, 5), at(12, 40), at(-30, 0)];
  it("is ahead, the one aside counting as further", () => {
    expect(nearestIn(WAYS["ArrowRight"]!, at(0, 0), middles)).toBe(0);
    expect(nearestIn(WAYS["ArrowDown"]!, at(0, 0), middles)).toBe(2);
    expect(nearestIn(WAYS["ArrowLeft"]!, at(0, 0), middles)).toBe(3);
    expect(nearestIn(WAYS["ArrowRight"]!, at(10, 0), middles)).toBe(1);
  });
  it("is none where nothing lies that way", () => {
    expect(nearestIn(WAYS["ArrowUp"]!, at(0, 0), middles)).toBe(-1);
    expect(nearestIn(WAYS["ArrowUp"]!, at(0, 0), [])).toBe(-1);
  });
});

describe("one tab stop", () => {
  it("is the first item, then whichever had the focus last, and stays one when items go", async () => {
    const holder = document.createElement("div");
    holder.innerHTML = "<button>a</button><button>b</button><button>c</button>";
    document.body.append(holder);
    const detach = roving("button")(holder);
    const stops = () => [...holder.querySelectorAll("button")].map((item) => item.getAttribute("tabindex"));
    expect(stops()).toEqual(["0", "-1", "-1"]);
    holder.querySelectorAll("button")[1]!.dispatchEvent(new FocusEvent("focusin", { bubbles: true }));
    expect(stops()).toEqual(["-1", "0", "-1"]);
    holder.querySelectorAll("button")[1]!.remove();
    await new Promise((resolve) => setTimeout(resolve));
    expect(stops()).toEqual(["0", "-1"]);
    detach();
    holder.remove();
  });
});
