/** Heat sources with their routes, and what feeds a part. */
import type { BuildDocument, Hop } from "./build";
import { freeId } from "./ids";
import { addParts, estimate } from "./parts";

export type SourceIdea = {
  name: string;
  watts: number;
  placeClass: string;
  limitC: number;
  end: { kind: "plate" | "stream" | "body"; part: string } | { kind: "air"; zone: string };
  interfaceClass: string;
  /** heat pipes between the source and a body: their class and how many */
  pipes?: { class: string; count: number };
};

/** A source with one place and its route: through an interface into a plate or a sink, or into a zone's air. */
export function addSource(draft: BuildDocument, idea: SourceIdea): string {
  const id = freeId(draft, idea.name);
  const place = `${id}-place`;
  draft.parts.push({
    id,
    kind: "source",
    name: idea.name,
    power_kind: "package",
    places: [
      {
        id: place,
        name: idea.name,
        class: idea.placeClass,
        temperature_kind: idea.placeClass.startsWith("lidded") ? "hottest_core" : "chip_sensor",
        limits: [{ kind: "throttle", at_c: idea.limitC }],
      },
    ],
  });
  const hops: Hop[] = [];
  if (idea.end.kind !== "air") {
    const [layer] = addParts(
      draft,
      { kind: "interface", name: `${idea.name} interface`, class: idea.interfaceClass },
      1,
    );
    hops.push({ id: `${place}-joint`, kind: "interface", part: layer! });
    if (idea.end.kind === "body" && idea.pipes) hops.push(...pipesTo(draft, idea.name, place, idea.pipes));
    hops.push({ id: `${place}-${idea.end.kind}`, kind: idea.end.kind, part: idea.end.part });
  } else hops.push({ id: `${place}-air`, kind: "air", zone: idea.end.zone });
  draft.routes.push({ id: `route-${place}`, place, hops });
  for (const workload of draft.workloads) workload.watts[id] = idea.watts;
  return id;
}

/** A block on the source and heat pipes that leave it, as hops. */
function pipesTo(draft: BuildDocument, name: string, place: string, wanted: { class: string; count: number }): Hop[] {
  const [block] = addParts(draft, { kind: "spreader", name: `${name} block`, class: "block_kit" }, 1);
  const sizes = {
    evaporator_mm: estimate(40, "10%"),
    adiabatic_mm: estimate(60, "20%"),
    condenser_mm: estimate(120, "10%"),
  };
  const [pipes] = addParts(draft, { kind: "heat_pipe", name: `${name} heat pipes`, ...wanted, bends: 1, ...sizes }, 1);
  return [
    { id: `${place}-block`, kind: "spreader", part: block! },
    { id: `${place}-pipes`, kind: "pipes", parts: [pipes!] },
  ];
}

/** A header of the board for fans; 1 A is what one carries by common practice. */
export function addHeader(draft: BuildDocument): string {
  const number = draft.feeds.length + 1;
  const id = freeId(draft, `header-${number}`);
  draft.feeds.push({ id, name: `Header ${number}`, kind: "header", limit_a: 1 });
  return id;
}
