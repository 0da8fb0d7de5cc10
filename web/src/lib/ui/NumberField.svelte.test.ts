// @vitest-environment jsdom
import { render, screen } from "@testing-library/svelte";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import NumberField from "./NumberField.svelte";

const field = (more: object = {}) => {
  const onchange = vi.fn();
  render(NumberField, { label: "Heat", unit: "W", value: 125, low: 0, high: 2000, onchange, ...more });
  return { onchange, input: screen.getByRole<HTMLInputElement>("textbox", { name: /Heat/ }) };
};

describe("a number field", () => {
  it("takes a number as it is typed, with comma or point", async () => {
    const { onchange, input } = field();
    await userEvent.clear(input);
    await userEvent.type(input, "12,5");
    expect(onchange).toHaveBeenLastCalledWith(12.5);
    expect(input).toHaveProperty("value", "12,5");
    expect(screen.queryByRole("alert")).toBeNull();
  });
  it.each([
    ["12x", "a number is needed"],
    ["-1", "0 to 2000 W"],
    ["2001", "0 to 2000 W"],
  ])("says what is wrong with %s and does not take it", async (text, words) => {
    const { onchange, input } = field({ value: undefined });
    await userEvent.click(input);
    await userEvent.paste(text);
    expect(screen.getByRole("alert").textContent).toBe(words);
    expect(input.getAttribute("aria-invalid")).toBe("true");
    expect(onchange).not.toHaveBeenCalled();
  });
  it("takes both ends of its range", async () => {
    const { onchange, input } = field({ value: undefined });
    for (const text of ["0", "2000"]) {
      await userEvent.clear(input);
      await userEvent.type(input, text);
      expect(onchange).toHaveBeenLastCalledWith(Number(text));
    }
  });
  it("shows the figure again when it is left with nothing taken", async () => {
    const { input } = field();
    await userEvent.clear(input);
    await userEvent.type(input, "12x");
    await userEvent.tab();
    expect(input.value).toBe("125");
  });
});
