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
  it.each([
    ["12x", "a number is needed; still 125"],
    ["2500", "0 to 2000 W; still 125"],
  ])("keeps %s when it is left, says why, and gives it up by Esc", async (text, words) => {
    const { input, onchange } = field();
    await userEvent.clear(input);
    await userEvent.paste(text);
    await userEvent.tab();
    expect(input.value).toBe(text);
    expect(screen.getByRole("alert").textContent).toBe(words);
    await userEvent.type(input, "{Escape}");
    expect(input.value).toBe("125");
    expect(onchange).not.toHaveBeenCalled();
  });
  it.each([
    [{ low: 0, high: Infinity }, "0 or more W"],
    [{ low: -Infinity, high: 60 }, "at most 60 W"],
  ])("says an open range %o as %s", async (more, words) => {
    const { input } = field({ value: undefined, ...more });
    await userEvent.click(input);
    await userEvent.paste(more.low === 0 ? "-5" : "61");
    expect(screen.getByRole("alert").textContent).toBe(words);
  });
});
