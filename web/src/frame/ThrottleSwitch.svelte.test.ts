// @vitest-environment jsdom
import { render, screen } from "@testing-library/svelte";
import userEvent from "@testing-library/user-event";
import { expect, test } from "vitest";
import type { BuildDocument } from "$lib/document/build";
import type { BuildState } from "$lib/state/build.svelte";
import ThrottleSwitch from "./ThrottleSwitch.svelte";

function buildWith(limits: { kind: string; at_c: number }[], throttles?: boolean) {
  const place = { id: "chip", name: "Chip", temperature_kind: "case", limits, throttles };
  const document = { parts: [{ id: "source", kind: "source", places: [place] }] } as unknown as BuildDocument;
  const labels: string[] = [];
  const edit = (label: string, change: (draft: BuildDocument) => void) => {
    labels.push(label);
    change(document);
  };
  return { build: { document, editable: true, edit } as unknown as BuildState, place, labels };
}

test("a place with a throttle limit is told to throttle, and not to, by one switch", async () => {
  const { build, place, labels } = buildWith([{ kind: "throttle", at_c: 95 }]);
  render(ThrottleSwitch, { build, place: "chip" });
  const box = screen.getByRole<HTMLInputElement>("checkbox", { name: "throttles at its limit" });
  expect(box.checked).toBe(false);
  await userEvent.click(box);
  expect(place.throttles).toBe(true);
  await userEvent.click(box);
  expect(place.throttles).toBe(false);
  expect(labels).toEqual(["Chip throttles", "Chip takes all its watts"]);
});

test("one that has no such limit has no switch", () => {
  const { build } = buildWith([{ kind: "own", at_c: 95 }]);
  render(ThrottleSwitch, { build, place: "chip" });
  expect(screen.queryByRole("checkbox")).toBeNull();
});
