// @vitest-environment jsdom
import { render, screen } from "@testing-library/svelte";
import userEvent from "@testing-library/user-event";
import { beforeAll, describe, expect, it, vi } from "vitest";
import type { BuildState } from "$lib/state/build.svelte";
import TrialPanel from "./TrialPanel.svelte";

beforeAll(() => (Element.prototype.scrollIntoView = vi.fn()));

const place = (more: object) => ({
  address: "core",
  name: "Processor",
  first_c: 70,
  second_c: 66,
  difference_k: -4,
  limit_c: 95,
  says: "cooler",
  passes: false,
  ...more,
});
const compared = (places: object[], second_dba = 36.0) => ({
  places,
  first_dba: 36,
  second_dba,
  sentence: "Cooler all over.",
});

function panel(trial: object, editable = true) {
  const build = {
    document: { prices: {} },
    editable,
    edit: vi.fn(),
    trial: {
      label: "two more pipes",
      document: {},
      comparison: null,
      faults: [],
      priceKey: "",
      take: vi.fn(),
      discard: vi.fn(),
      price: vi.fn(),
      ...trial,
    },
  };
  render(TrialPanel, { build: build as unknown as BuildState });
  return build;
}
const row = (name: string) =>
  screen.getByRole("row", { name: new RegExp(`^${name}`) }).textContent?.replace(/\s+/g, " ");

describe("a trial beside the build as it stands", () => {
  it("tells every part's difference, and a word where it is none, unclear, or over a limit", () => {
    panel({
      comparison: compared([
        place({}),
        place({ address: "gpu", name: "Graphics", says: "warmer", difference_k: 3, second_c: 96, passes: true }),
        place({ address: "ram", name: "Memory", says: "none", difference_k: 0.2 }),
        place({ address: "ssd", name: "Drive", says: "cannot tell", difference_k: 1.4 }),
        place({ address: "fan", name: "New", says: "only in one", difference_k: null, first_c: null }),
      ]),
    });
    expect(row("Processor")).toContain("−4.0 K");
    expect(row("Graphics")).toContain("over its 95 °C");
    expect(row("Memory")).toContain("none");
    expect(row("Drive")).toContain("cannot tell");
    expect(row("New")).toContain("– °C");
    expect(screen.getByText("Cooler all over.")).toBeTruthy();
  });
  it.each([
    [36.04, "none"],
    [36.06, "+0.1 dB"],
  ])("tells the sound: %s dBA against 36 is %s", (second, words) => {
    panel({ comparison: compared([], second) });
    expect(row("Sound")).toContain(words);
  });
  it("is not taken while it is solved, nor by a reader", () => {
    panel({});
    expect(screen.getByRole("button", { name: "Keep change" })).toHaveProperty("disabled", true);
    expect(screen.getByRole("status").textContent).toBe("Solving both …");
  });
  it("is not taken by a reader", () => {
    panel({ comparison: compared([]) }, false);
    expect(screen.getByRole("button", { name: "Keep change" })).toHaveProperty("disabled", true);
  });
  it("is taken or left by its buttons", async () => {
    const { trial } = panel({ comparison: compared([]) });
    await userEvent.click(screen.getByRole("button", { name: "Keep change" }));
    await userEvent.click(screen.getByRole("button", { name: "Discard" }));
    expect([trial.take, trial.discard].map((told) => (told as ReturnType<typeof vi.fn>).mock.calls.length)).toEqual([
      1, 1,
    ]);
  });
  it("says why it cannot be", () => {
    panel({ faults: [{ where: "rad/sections", what: "0", allowed: "1 to 12" }] });
    expect(screen.getByRole("alert").textContent).toContain("1 to 12");
  });
  it("keeps a price that is typed with the build and with the trial", async () => {
    const build = panel({ comparison: compared([]), priceKey: "rad/sections=3" });
    await userEvent.type(screen.getByRole("textbox", { name: "one piece costs" }), "80");
    expect((build.trial as unknown as { price: ReturnType<typeof vi.fn> }).price).toHaveBeenLastCalledWith(
      "rad/sections=3",
      80,
    );
    expect(build.edit).toHaveBeenCalledTimes(2);
  });
});
