// @vitest-environment jsdom
import { render, screen } from "@testing-library/svelte";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import ChannelRoles from "./ChannelRoles.svelte";

const channel = (index: number, name: string, role: string, sure: boolean, asked = false) => ({
  index,
  name,
  unit: asked ? "" : "°C",
  role,
  sure,
  asked,
  reason: sure ? "temperature, by its unit °C" : "",
});
const CHANNELS = [
  channel(1, "CPU", "processor/temperature", true),
  channel(2, "Note", "ignore", false),
  channel(3, "T2", "box/air", false),
];
const ROLES = [
  { role: "processor/temperature", label: "Processor" },
  { role: "box/air", label: "Box air" },
  { role: "ignore", label: "left out" },
];

async function shown(editable = true) {
  const onrole = vi.fn();
  render(ChannelRoles, { channels: CHANNELS, roles: ROLES, editable, onrole, onunit: vi.fn() });
  await userEvent.click(screen.getByRole("button", { name: /^Channels/ }));
  return onrole;
}

describe("channels of a log", () => {
  it("count what is to be confirmed and put it first", async () => {
    await shown();
    expect(screen.getByRole("button", { name: "Channels (1 to confirm)" })).toBeTruthy();
    expect(screen.getAllByRole("row").map((row) => row.textContent?.trim().split(" ")[0])).toEqual([
      "ChannelTaken",
      "T2",
      "CPU",
      "Note",
    ]);
    expect(screen.getAllByRole("button", { name: /^Confirm/ })).toHaveLength(1);
  });

  it("are confirmed as they are, or given another role", async () => {
    const onrole = await shown();
    await userEvent.click(screen.getByRole("button", { name: "Confirm T2" }));
    expect(onrole).toHaveBeenLastCalledWith({ 3: "box/air" });
    await userEvent.selectOptions(screen.getByRole("combobox", { name: "role of T2" }), "Processor");
    expect(onrole).toHaveBeenLastCalledWith({ 3: "processor/temperature" });
  });

  it("are only read by a reader", async () => {
    await shown(false);
    expect(screen.getByRole<HTMLButtonElement>("button", { name: "Confirm T2" }).disabled).toBe(true);
  });

  it("in a unit that nobody knows are asked about, and the unit is told", async () => {
    const onunit = vi.fn();
    const channels = [...CHANNELS, channel(4, "Probe [digits]", "ignore", false, true)];
    render(ChannelRoles, { channels, roles: ROLES, editable: true, onrole: vi.fn(), onunit });
    await userEvent.click(screen.getByRole("button", { name: "Channels (2 to confirm)" }));
    await userEvent.selectOptions(screen.getByLabelText("unit of Probe [digits]"), "°F");
    expect(onunit).toHaveBeenCalledWith({ 4: "°F" });
  });

  it("are confirmed all at once where more than one is open", async () => {
    const onrole = vi.fn();
    const channels = [...CHANNELS, channel(4, "T3", "box/air", false)];
    render(ChannelRoles, { channels, roles: ROLES, editable: true, onrole, onunit: vi.fn() });
    await userEvent.click(screen.getByRole("button", { name: /^Channels/ }));
    await userEvent.click(screen.getByRole("button", { name: "Confirm all 2" }));
    expect(onrole).toHaveBeenCalledWith({ 3: "box/air", 4: "box/air" });
  });
});
