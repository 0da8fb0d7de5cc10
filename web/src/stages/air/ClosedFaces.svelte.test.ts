// @vitest-environment jsdom
import { fireEvent, render, screen } from "@testing-library/svelte";
import { beforeEach, expect, it, vi } from "vitest";
import type { WorkloadResult } from "$lib/api/client";
import { emptyBuild } from "$lib/document/empty";
import type { BuildState } from "$lib/state/build.svelte";
import ClosedFaces from "./ClosedFaces.svelte";

beforeEach(() => {
  vi.stubGlobal(
    "ResizeObserver",
    class {
      observe() {}
      unobserve() {}
      disconnect() {}
    },
  );
  vi.spyOn(HTMLElement.prototype, "clientWidth", "get").mockReturnValue(700);
});

const body = (address: string, name: string, watts: number[]) => ({
  address,
  name,
  temperature_c: 41,
  over_room_k: 19,
  ways: watts.map((w, i) => ({ side: i < 2 ? "outside" : "inside", watts: w })),
});

it("says of each face what all its ways outside pass on, and opens what lies there", async () => {
  const document = emptyBuild("Limpet", 22);
  document.housing = { inner_size_mm: [200, 200, 200], gravity: [0, -1, 0] };
  document.parts = [
    { id: "lid", kind: "panel", name: "Lid", face: "top" },
    { id: "back", kind: "sink", name: "Finned back", face: "back" },
  ] as never;
  const bodies = [body("lid", "Lid", [2, 1, -4]), body("back", "Finned back", [6, 3, -1])];
  const build = { document, sheet: null as string | null };
  render(ClosedFaces, {
    build: build as unknown as BuildState,
    result: { bodies } as unknown as WorkloadResult,
  });
  const lid = screen.getByRole("button", { name: "Lid: 3.0 W to the room, 41.0 °C" });
  const back = screen.getByRole("button", { name: "Finned back: 9.0 W to the room, 41.0 °C" });
  expect(back.textContent).toContain("75 %");
  expect(screen.getAllByText("no panel")).toHaveLength(3);
  expect(screen.getByText("down")).toBeTruthy();
  await fireEvent.click(lid);
  expect(build.sheet).toBe("lid");
  await fireEvent.keyDown(back, { key: "Enter" });
  expect(build.sheet).toBe("back");
});
