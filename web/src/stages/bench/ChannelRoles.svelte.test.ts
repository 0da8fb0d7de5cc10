// @vitest-environment jsdom
import { render, screen } from "@testing-library/svelte";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import ChannelRoles from "./ChannelRoles.svelte";

const channel = (index: number, name: string, role: string, sure: boolean) => ({ index, name, unit: "°C", role, sure });
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
  render(ChannelRoles, { channels: CHANNELS, roles: ROLES, editable, onrole });
  await userEvent.click(screen.getByRole("button", { name: /^Channels/ }));
  return onrole;
}

describe("channels of a log", () => {
  it("count what is to be confirmed and put it first", async () => {
    await shown();
    expect(screen.getByRole("button", { name: "Channels (1 to confirm)" })).toBeTruthy();
    expect(screen.getAllByRole("row").map((row) => row.textContent?.trim().split(" ")[0])).toEqual([
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
});
