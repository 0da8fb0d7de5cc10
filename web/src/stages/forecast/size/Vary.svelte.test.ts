// @vitest-environment jsdom
import { render, screen, within } from "@testing-library/svelte";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { BuildState } from "$lib/state/build.svelte";
import type { Axis } from "$lib/document/vary";

vi.mock("$lib/state/shelf.svelte", () => ({ shelf: { items: [], load: vi.fn() } }));
const { default: Vary } = await import("./Vary.svelte");

const duty: Axis = {
  address: "movers/fans",
  name: "All fans: duty",
  unit: "",
  range: true,
  first: true,
  options: [0.3, 0.65, 1].map((value) => ({ value, label: `${100 * value} %` })),
};
const sections: Axis = {
  address: "rad/sections",
  name: "Radiator: sections",
  unit: "",
  range: false,
  first: true,
  options: [1, 2, 3].map((value) => ({ value, label: `${value} × 120` })),
};
const build = { document: { parts: [] }, editable: true } as unknown as BuildState;

function vary(axes: Axis[]) {
  const held = $state({ axes });
  render(Vary, {
    build,
    offered: [duty, sections],
    get axes() {
      return held.axes;
    },
    set axes(next: Axis[]) {
      held.axes = next;
    },
  });
  return held;
}
afterEach(() => vi.clearAllMocks());

describe("what may vary", () => {
  it("counts the candidates and says when there are too many", () => {
    const many = { ...duty, options: Array.from({ length: 200 }, (_, i) => ({ value: i / 200 })) };
    vary([many, { ...sections, options: Array.from({ length: 51 }, (_, i) => ({ value: i })) }]);
    expect(screen.getByText("10,200 candidates")).toBeTruthy();
    expect(screen.getByText("up to 10 000: narrow a range")).toBeTruthy();
  });
  it("makes a range anew from its ends, in per cent for duties", async () => {
    const held = vary([duty]);
    const from = screen.getByRole("textbox", { name: "from" });
    await userEvent.clear(from);
    await userEvent.type(from, "50");
    expect(held.axes[0]!.options.map((option) => option.label)).toEqual(["50 %", "75 %", "100 %"]);
    expect(held.axes[0]!.options[0]!.value).toBe(0.5);
  });
  it("drops and takes back a value, but never the last", async () => {
    const held = vary([sections]);
    const chip = (name: string) => screen.getByRole("button", { name });
    await userEvent.click(chip("1 × 120"));
    await userEvent.click(chip("2 × 120"));
    await userEvent.click(chip("3 × 120"));
    expect(held.axes[0]!.options.map((option) => option.value)).toEqual([3]);
    await userEvent.click(chip("1 × 120"));
    expect(held.axes[0]!.options.map((option) => option.value)).toEqual([1, 3]);
  });
  it("leaves an axis out, and offers it again", async () => {
    const held = vary([duty, sections]);
    await userEvent.click(screen.getByRole("button", { name: "Do not vary All fans: duty" }));
    expect(held.axes.map((axis) => axis.address)).toEqual(["rad/sections"]);
    const more = screen.getByRole("combobox");
    expect(within(more).getByText("All fans: duty")).toBeTruthy();
    await userEvent.selectOptions(more, "movers/fans");
    expect(held.axes.map((axis) => axis.address)).toEqual(["rad/sections", "movers/fans"]);
  });
  it("keeps a price with its value", async () => {
    const held = vary([sections]);
    await userEvent.click(screen.getByRole("button", { name: "prices" }));
    await userEvent.type(screen.getByRole("textbox", { name: "2 × 120" }), "90");
    expect(held.axes[0]!.options.find((option) => option.value === 2)!.price).toBe(90);
  });
});
