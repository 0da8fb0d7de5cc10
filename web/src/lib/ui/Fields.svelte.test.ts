// @vitest-environment jsdom
import { render, screen, within } from "@testing-library/svelte";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import { addable, fieldsOfKind, rowsOf } from "$lib/document/fields";
import Fields from "./Fields.svelte";

const PIPE = {
  id: "pipes",
  count: 3,
  bends: 1,
  evaporator_mm: { value: 40, plus_minus: "10%", from: "estimate" },
  condenser_mm: 120,
};

function sheet(byClass: Record<string, number[]> = {}, added: string[] = []) {
  const fields = fieldsOfKind("heat_pipe");
  const rows = rowsOf(fields, PIPE, byClass, added);
  const [onchange, onadd] = [vi.fn(), vi.fn()];
  const { container } = render(Fields, { rows, addable: addable(fields, rows), onchange, onadd });
  const input = (name: string) => screen.getByRole<HTMLInputElement>("textbox", { name: new RegExp(`^${name}`) });
  return { container, onchange, onadd, input };
}

describe("figures of a thing", () => {
  it("stand with label, unit, tolerance and origin", () => {
    const { container, input } = sheet({ limit_w: [65, 15] });
    expect(input("heated length").value).toBe("40");
    const text = container.textContent?.replace(/\s+/g, " ");
    expect(text).toContain("± 10%");
    expect(text).toContain("limit, level, at 60 °C");
    expect(text).toContain("± 15");
  });
  it("stand group by group, size before heat", () => {
    const { container } = sheet({ limit_w: [65, 15] });
    expect([...container.querySelectorAll("h4")].map((head) => head.textContent)).toEqual(["size", "heat"]);
  });
  it("hand a changed figure on with the one that stood there", async () => {
    const { onchange, input } = sheet();
    await userEvent.clear(input("heated length"));
    await userEvent.type(input("heated length"), "50");
    const [field, figure, value] = onchange.mock.lastCall!;
    expect([field.key, figure, value]).toEqual(["evaporator_mm", PIPE.evaporator_mm, 50]);
  });
  it("keep to whole numbers where the part is made of them", async () => {
    const { onchange, input } = sheet();
    await userEvent.clear(input("pipes"));
    await userEvent.type(input("pipes"), "4.6");
    expect(onchange.mock.lastCall![2]).toBe(5);
  });
  it("keep to the range that the schema states: below zero is for what may lie below", async () => {
    const { onchange, input } = sheet({}, ["lift_mm"]);
    await userEvent.type(input("evaporator above condenser"), "-30");
    expect(onchange.mock.lastCall![2]).toBe(-30);
    onchange.mockClear();
    await userEvent.clear(input("cooled length"));
    await userEvent.type(input("cooled length"), "-30");
    expect(onchange).not.toHaveBeenCalled();
  });
  it("offer the rest to be added, and an added one stands empty until it is typed", async () => {
    const { onadd } = sheet();
    const offered = screen.getByLabelText("Add a figure");
    expect(within(offered).queryByText(/heated length/)).toBeNull();
    await userEvent.selectOptions(offered, "flat_mm");
    expect(onadd).toHaveBeenCalledWith("flat_mm");
    const { input } = sheet({}, ["flat_mm"]);
    expect(input("pressed flat to").value).toBe("");
  });
});
