import type { BuildState } from "$lib/state/build.svelte";
import { originOf } from "$lib/document/build";
import { isOfAir, isOfFit } from "$lib/document/notices";

/** Stages in the order of the work. Number keys are bound to the final list; stages not built yet do not appear. */
export type Stage = { key: string; id: string; name: string };

export const STAGES: Stage[] = [
  { key: "1", id: "brief", name: "Brief" },
  { key: "2", id: "heat", name: "Heat" },
  { key: "3", id: "route", name: "Route" },
  { key: "4", id: "air", name: "Air" },
  { key: "5", id: "fit", name: "Fit" },
  { key: "6", id: "forecast", name: "Forecast" },
  { key: "7", id: "bench", name: "Bench" },
  { key: "8", id: "verdict", name: "Verdict" },
  { key: "9", id: "sheet", name: "Build sheet" },
  { key: "0", id: "logbook", name: "Logbook" },
];

export type StageState = { mark: string; title: string; tone: "good" | "warn" | "bad" | "plain" };

/** What a stage says of itself in the list. */
export function stateOf(stage: string, build: BuildState): StageState {
  const warnings = build.result?.notices.filter((notice) => notice.level === "warning") ?? [];
  const places = build.result?.places ?? [];
  if (build.unknown && ["route", "air", "forecast"].includes(stage))
    return { mark: "?", title: "unknown: not solved", tone: "plain" };
  if (stage === "brief") {
    const done = !!build.document?.brief?.purpose;
    return done ? { mark: "✓", title: "good", tone: "good" } : { mark: "·", title: "no purpose yet", tone: "plain" };
  }
  if (stage === "heat") {
    const guesses = Object.values(build.workload?.watts ?? {}).filter((f) => originOf(f) === "estimate").length;
    return guesses
      ? { mark: `${guesses}`, title: `${guesses} guessed watts`, tone: "warn" }
      : { mark: "✓", title: "good", tone: "good" };
  }
  if (stage === "air" && !build.document?.air_paths.length) return { mark: "", title: "no air path", tone: "plain" };
  if (stage === "fit") {
    const here = warnings.filter((notice) => isOfFit(notice.address, build.document)).length;
    if (here) return { mark: `${here}`, title: `${here} warnings`, tone: "warn" };
    const begun = build.document?.slots.length || build.document?.contacts.length;
    return begun ? { mark: "✓", title: "good", tone: "good" } : { mark: "", title: "no slot yet", tone: "plain" };
  }
  if (stage === "route" || stage === "air") {
    const here = warnings.filter(
      ({ address }) => !isOfFit(address, build.document) && isOfAir(address, build.document) === (stage === "air"),
    );
    if (here.length) return { mark: `${here.length}`, title: `${here.length} warnings`, tone: "warn" };
  }
  if (stage === "forecast") {
    const hot = places.filter((place) => place.status === "too hot").length;
    const tight = places.filter((place) => place.status === "tight").length;
    const throttled = places.filter((place) => place.status === "throttled").length;
    if (hot) return { mark: "!", title: `${hot} too hot`, tone: "bad" };
    if (throttled) return { mark: "!", title: `${throttled} throttled`, tone: "bad" };
    if (tight) return { mark: `${tight}`, title: `${tight} tight`, tone: "warn" };
  }
  if (stage === "logbook")
    return build.revision
      ? { mark: `${build.revision}`, title: `${build.revision} revisions`, tone: "plain" }
      : { mark: "", title: "no revision yet", tone: "plain" };
  return places.length && ["route", "air", "forecast"].includes(stage)
    ? { mark: "✓", title: "good", tone: "good" }
    : { mark: "", title: "", tone: "plain" };
}
