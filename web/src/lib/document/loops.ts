/** Coolant loops: a new one, and what is put into or taken out of one. */
import { partsOf, type BuildDocument } from "./build";
import { pathOf } from "./air";
import { insert, leaves } from "./elements";
import { freeId } from "./ids";
import { addParts, command, estimate, removePart, type NewPart } from "./parts";

/** A loop with what every loop has: pump, tube and reservoir. */
export function addLoop(draft: BuildDocument, name: string, pumpClass: string): string {
  const id = freeId(draft, name);
  const [pump] = addParts(draft, { kind: "pump", name: `${name} pump`, class: pumpClass }, 1);
  const tube: NewPart = {
    kind: "tube",
    name: `${name} tube`,
    class: "tube_soft",
    length_m: estimate(1.5, "25%"),
    bore_mm: estimate(10, "5%"),
  };
  const [tubes] = addParts(draft, tube, 1);
  const tank: NewPart = {
    kind: "reservoir",
    name: `${name} reservoir`,
    class: "reservoir_common",
    bore_mm: estimate(9, "10%"),
  };
  const [reservoir] = addParts(draft, tank, 1);
  command(draft, [pump!], { duty: 0.7 });
  draft.loops.push({
    id,
    name,
    coolant: { fluid: "propylene_glycol", mass_share: 0.1 },
    elements: [pump!, tubes!, reservoir!],
  });
  return id;
}

/** A second pump behind the first one, told the same. */
export function secondPump(draft: BuildDocument, loopId: string): void {
  const loop = draft.loops.find((l) => l.id === loopId);
  const pump = loop && leaves(loop.elements).find((id) => draft.parts.find((p) => p.id === id)?.kind === "pump");
  const first = draft.parts.find((p) => p.id === pump);
  if (!loop || !first) return;
  const [second] = addParts(draft, { ...first, name: `${first.name ?? "Pump"}, second` }, 1);
  for (const workload of draft.workloads) {
    const told = workload.movers?.[first.id];
    if (told) workload.movers = { ...workload.movers, [second!]: structuredClone(told) };
  }
  const at = loop.elements.indexOf(first.id);
  loop.elements = insert(loop.elements, [second!], false, at < 0 ? 0 : at + 1);
}

/** One radiator out of a loop; the fans that blew through it stay, its face is left as a guard. */
export function oneRadiatorFewer(draft: BuildDocument, loopId: string): void {
  const loop = draft.loops.find((l) => l.id === loopId);
  const inLoop = loop ? leaves(loop.elements) : [];
  const radiators = partsOf(draft, "radiator").filter((part) => inLoop.includes(part.id));
  const last = radiators.sort((a, b) => inLoop.indexOf(a.id) - inLoop.indexOf(b.id)).at(-1);
  if (!last || radiators.length < 2) return;
  const path = pathOf(draft, last.id);
  if (path && leaves(path.elements).length === 1) {
    const area_cm2 = estimate((last.section_mm / 10) ** 2 * last.sections, "5%");
    const name = `${last.name ?? "Radiator"}, left open`;
    const [open] = addParts(draft, { kind: "opening", name, class: "opening_guard", area_cm2 }, 1);
    path.elements = [open!];
  }
  removePart(draft, last.id);
}
