// @vitest-environment jsdom
import { render, screen } from "@testing-library/svelte";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { BuildState } from "$lib/state/build.svelte";
import FaultBanner from "./FaultBanner.svelte";

const DOCUMENT = {
  rooms: [],
  zones: [],
  loops: [],
  workloads: [],
  air_paths: [],
  recirculations: [],
  feeds: [],
  parts: [{ id: "tube-2", kind: "tube", name: "Tube back", length_m: 2 }],
};

function banner(where: string, what = "is missing", allowed = "a figure") {
  const build = { document: DOCUMENT, sheet: null as string | null };
  const fault = { where, what, allowed };
  render(FaultBanner, { build: build as unknown as BuildState, fault, means: "cannot be solved" });
  return build;
}

describe("a fault of the draft", () => {
  it("is told in the words of its part, with what is allowed and what it means", () => {
    banner("tube-2/length_m", "3000", "0 to 100 m");
    const text = screen.getByRole("alert").textContent?.replace(/\s+/g, " ");
    expect(text).toContain("Tube back, length: 3000; allowed: 0 to 100 m");
    expect(text).toContain("cannot be solved");
  });

  it("opens the sheet of its part", async () => {
    const build = banner("tube-2/length_m");
    await userEvent.click(screen.getByRole("button", { name: "Open Tube back" }));
    expect(build.sheet).toBe("tube-2/length_m");
  });

  it("that belongs to no part keeps its address and leads nowhere", () => {
    banner("workloads/nothing", "there is no such workload", "");
    expect(screen.getByRole("alert").textContent).toContain("workloads/nothing: there is no such workload");
    expect(screen.queryByRole("button")).toBeNull();
  });
});
