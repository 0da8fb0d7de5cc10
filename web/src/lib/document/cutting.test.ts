import { describe, expect, it } from "vitest";
import { emptyBuild } from "./empty";
import { cutOpening, FIRST_CUT, openingOf, type Cut, type How } from "./cutting";
import type { BuildDocument } from "./build";

const of = (how: How, more: Partial<Cut>) => openingOf(how, { ...FIRST_CUT, ...more });

describe("an opening by how it is cut", () => {
  it.each<[How, Partial<Cut>, number, number]>([
    ["circle", { diameter: 116 }, 105.7, 1],
    ["circle", { count: 2, diameter: 116 }, 211.4, 1],
    ["slots", { count: 12, length: 60, width: 4 }, 28.8, 1],
    ["sides", { length: 800, height: 20 }, 160, 1],
    // 200 holes of 5 mm on 120 by 60 mm: 200 * 19.635 / 7200
    ["holes", { count: 200, diameter: 5, length: 120, width: 60 }, 72, 0.545],
  ])("%s %o", (how, more, area, share) => {
    const found = of(how, more);
    expect(found.area_cm2).toBeCloseTo(area, 1);
    expect(found.share).toBeCloseTo(share, 3);
    expect(found.fault).toBe("");
  });

  it("is refused where holes would overlap, and just not where they touch", () => {
    const field = { diameter: 10, length: 100, width: 100 };
    expect(of("holes", { ...field, count: 115 }).fault).toBe("");
    expect(of("holes", { ...field, count: 116 }).fault).toContain("room");
  });
});

describe("stated in a build", () => {
  const draft = () => {
    const grille = { id: "grille", kind: "opening", class: "opening_guard", area_cm2: 50, loss: 3, made_of: "wires" };
    return { ...emptyBuild("Heron", 25), parts: [grille] } as unknown as BuildDocument;
  };

  it("a field of holes has its outline, its share and no loss of its own", () => {
    const build = draft();
    cutOpening(build, "grille", "holes", { ...FIRST_CUT, count: 200, diameter: 5, length: 120, width: 60 });
    expect(build.parts[0]).toMatchObject({ class: "opening_holes", made_of: "plate" });
    expect(build.parts[0]).toMatchObject({
      area_cm2: 72,
      free_area_share: 0.545,
    });
    expect(build.parts[0]).not.toHaveProperty("loss");
  });

  it("a free one has its area, and forgets a share it had", () => {
    const build = draft();
    cutOpening(build, "grille", "holes", { ...FIRST_CUT, count: 20, diameter: 5 });
    cutOpening(build, "grille", "slots", { ...FIRST_CUT, count: 2, length: 60, width: 4 });
    expect(build.parts[0]).toMatchObject({ class: "opening_free", area_cm2: 4.8 });
    expect(build.parts[0]).not.toHaveProperty("free_area_share");
  });

  it("what cannot be cut changes nothing", () => {
    const build = draft();
    cutOpening(build, "grille", "holes", { ...FIRST_CUT, count: 2000 });
    expect(build.parts[0]).toMatchObject({ class: "opening_guard", area_cm2: 50, loss: 3 });
  });
});
