import { describe, expect, it } from "vitest";
import type { BuildDocument } from "./document/build";
import { emptyBuild } from "./document/empty";
import { doneOf, GUIDE } from "./guide";

const guess = (value: number) => ({ value, plus_minus: "10%", from: "estimate" });
function known(change: (document: BuildDocument) => void = () => undefined, revision: number | null = null) {
  const document = emptyBuild("Heron", 25);
  document.workloads = [{ id: "full", watts: { chip: guess(65) } }] as never;
  change(document);
  return { document, workload: "full", revision };
}
const done = (...given: Parameters<typeof known>) =>
  GUIDE.filter((_, i) => doneOf(known(...given), [])[i]).map((step) => step.stage);

describe("a guided first build", () => {
  it("has six steps, in the order of the stages", () => {
    expect(GUIDE.map((step) => step.stage)).toEqual(["brief", "heat", "route", "air", "forecast", "logbook"]);
    expect(done()).toEqual([]);
  });

  it.each<[string, (document: BuildDocument) => void]>([
    ["brief", (d) => (d.brief = { ...d.brief, purpose: "listening desk" } as never)],
    ["heat", (d) => (d.workloads[0]!.watts["chip"] = 70)],
  ])("sees that %s is done in the build", (stage, change) => {
    expect(done(change)).toEqual([stage]);
  });

  it("takes another guess for no answer, nor a purpose of blanks", () => {
    expect(done((d) => (d.workloads[0]!.watts["chip"] = { value: 72, from: "class" }))).toEqual([]);
    expect(done((d) => (d.brief = { ...d.brief, purpose: "  " } as never))).toEqual([]);
  });

  it("is at its end with a revision, and has what somebody ticked", () => {
    expect(done(undefined, 1)).toEqual(["logbook"]);
    expect(doneOf(known(), [4])).toEqual([false, false, false, false, true, false]);
  });
});
