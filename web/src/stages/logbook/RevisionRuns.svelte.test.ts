// @vitest-environment jsdom
import { render, screen } from "@testing-library/svelte";
import { describe, expect, it } from "vitest";
import type { Schemas } from "$lib/api/client";
import RevisionRuns from "./RevisionRuns.svelte";

const CARD = {
  id: "r1",
  name: "Both log",
  kind: "log",
  workload: "both",
  created: "2026-11-28T20:00:00Z",
  said: "Nothing is off.",
  note: "Lid on.",
  pictures: [{ sha256: "a".repeat(64), caption: "paste print", media_type: "image/png", width: 4, height: 3 }],
} as unknown as Schemas["RunCard"];
const change = (conclusion: string) =>
  ({
    after: "r1",
    workload: "both",
    part: "Processor",
    measured_k: -4.04,
    half_k: 1.2,
    predicted_k: -3.5,
    conclusion,
    before_revision: 2,
  }) as Schemas["MeasuredChange"];

const said = (conclusion: string) => {
  render(RevisionRuns, { buildId: "b", cards: [], changes: [change(conclusion)] });
  return screen.getByTestId("measured-change").textContent!.replace(/\s+/g, " ").trim();
};

describe("runs of a revision", () => {
  it("stand with what was said, noted and pictured", () => {
    render(RevisionRuns, { buildId: "b", cards: [CARD], changes: [] });
    expect(screen.getByText("Nothing is off.")).toBeTruthy();
    expect(screen.getByText("Lid on.")).toBeTruthy();
    expect(screen.getByAltText("paste print").getAttribute("src")).toBe(`/api/runs/r1/pictures/${"a".repeat(64)}`);
    expect(screen.getByRole("link", { name: "Both log" }).getAttribute("href")).toBe("#/build/b/verdict");
  });

  it("tell what was measured beside what the model gives", () => {
    expect(said("cooler")).toBe("measured in both: −4.0 ± 1.2 K on Processor, −3.5 K by the model, against revision 2");
  });

  it("call no difference what is none", () => {
    expect(said("no difference")).toContain("no difference against revision 2");
  });
});
