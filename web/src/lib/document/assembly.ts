/** Changes of what a build is made of: parts in and out of loops and air paths, chambers, paths, loops, sources. */
import type { BuildDocument, Command, Element, Figure, Hop, Part } from "./build";

export type Zone = {
  id: string;
  name?: string;
  kind: "outside" | "box";
  room?: string;
  air_c?: Figure;
  wall_w_k?: Figure;
  cross_section_cm2?: Figure;
};
export type AirPath = BuildDocument["air_paths"][number];
export type Face = "top" | "bottom" | "left" | "right" | "front" | "back";
export const FACES: Face[] = ["top", "bottom", "left", "right", "front", "back"];

export const LOOP_KINDS = [
  "pump",
  "plate",
  "radiator",
  "tube",
  "fitting",
  "coupling",
  "flow_meter",
  "strainer",
  "reservoir",
];
export const AIR_KINDS = [
  "fan",
  "radiator",
  "opening",
  "filter",
  "duct",
  "gap",
  "obstacle",
  "cooler",
  "sink",
  "supply",
];
export const BODY_KINDS = ["sink", "panel"];

export const estimate = (value: number, half: string): Figure => ({ value, plus_minus: half, from: "estimate" });

export const zonesOf = (document: BuildDocument) => (document["zones"] ?? []) as Zone[];

/** A slug that nothing in the build is called by yet. */
export function freeId(document: BuildDocument, wanted: string): string {
  const base =
    wanted
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-|-$/g, "")
      .slice(0, 48) || "part";
  const taken = new Set(idsOf(document));
  for (let n = 1; ; n += 1) {
    const id = n === 1 ? base : `${base}-${n}`;
    if (!taken.has(id)) return id;
  }
}

function idsOf(document: BuildDocument): string[] {
  const lists = [
    "rooms",
    "parts",
    "zones",
    "air_paths",
    "recirculations",
    "loops",
    "routes",
    "workloads",
    "feeds",
    "slots",
    "machines",
    "leads",
    "dues",
    "bonds",
  ];
  const own = lists.flatMap((list) => ((document[list] ?? []) as { id: string }[]).map((item) => item.id));
  const places = document.parts.flatMap((part) => (part.places ?? []).map((place) => place.id));
  return [...own, ...places, ...document.routes.flatMap((route) => route.hops.map((hop) => hop.id))];
}

/** Ids of a series/parallel tree, in flow order. */
export function leaves(elements: Element[]): string[] {
  return elements.flatMap((element) => (typeof element === "string" ? [element] : element.parallel.flatMap(leaves)));
}

/** Rows of a series/parallel tree: each leaf with how deep it stands and which branch it is in. */
export function rows(elements: Element[], depth = 0, branch = ""): { id: string; depth: number; branch: string }[] {
  return elements.flatMap((element) =>
    typeof element === "string"
      ? [{ id: element, depth, branch }]
      : element.parallel.flatMap((series, i) => rows(series, depth + 1, branch ? `${branch}.${i + 1}` : String(i + 1))),
  );
}

/** A tree without an id; branches that become empty go, one branch left becomes part of the series. */
export function without(elements: Element[], id: string): Element[] {
  return elements.flatMap((element): Element[] => {
    if (typeof element === "string") return element === id ? [] : [element];
    const kept = element.parallel.map((series) => without(series, id)).filter((series) => series.length);
    if (!kept.length) return [];
    return kept.length === 1 ? kept[0]! : [{ parallel: kept }];
  });
}

const reversed = (elements: Element[]): Element[] =>
  [...elements]
    .reverse()
    .map((element) => (typeof element === "string" ? element : { parallel: element.parallel.map(reversed) }));

/** Put copies of a part into the build: one after the other, or beside each other. Answers the new ids. */
export function addParts(draft: BuildDocument, part: Omit<Part, "id">, count: number): string[] {
  const ids: string[] = [];
  for (let n = 0; n < count; n += 1) {
    const id = freeId(draft, String(part.name ?? part.kind));
    const name = count > 1 ? `${part.name ?? part.kind} ${n + 1}` : part.name;
    draft.parts.push({ ...structuredClone(part), id, ...(name ? { name } : {}) } as Part);
    ids.push(id);
  }
  return ids;
}

export function insert(elements: Element[], ids: string[], beside: boolean, at = elements.length): Element[] {
  const added: Element[] = beside && ids.length > 1 ? [{ parallel: ids.map((id) => [id]) }] : ids;
  return [...elements.slice(0, at), ...added, ...elements.slice(at)];
}

/** Movers run at a duty in every workload from the start. */
export function command(draft: BuildDocument, ids: string[], duty: Command): void {
  for (const workload of draft.workloads) {
    workload.movers = { ...workload.movers, ...Object.fromEntries(ids.map((id) => [id, { ...duty }])) };
  }
}

/** Take a part out of the build and of everything that names it. Routes that end in it end in the first box's air. */
export function removePart(draft: BuildDocument, id: string): void {
  const part = draft.parts.find((p) => p.id === id);
  const places = new Set((part?.places ?? []).map((place) => place.id));
  draft.parts = draft.parts.filter((p) => p.id !== id);
  const bonds = draft["bonds"] as { first: string; second: string }[] | undefined;
  if (bonds) draft["bonds"] = bonds.filter((bond) => bond.first !== id && bond.second !== id);
  for (const loop of draft.loops) loop.elements = without(loop.elements, id);
  for (const path of draft.air_paths) path.elements = without(path.elements, id);
  draft.air_paths = draft.air_paths.filter((path) => path.elements.length);
  const left = new Set(draft.air_paths.map((path) => path.id));
  if (draft["recirculations"]) {
    const mixes = draft["recirculations"] as { from_path: string; to_path: string }[];
    draft["recirculations"] = mixes.filter((mix) => left.has(mix.from_path) && left.has(mix.to_path));
  }
  draft.routes = draft.routes.filter((route) => !places.has(route.place));
  const box = zonesOf(draft).find((zone) => zone.kind === "box") ?? zonesOf(draft)[0];
  for (const route of draft.routes) {
    if (!route.hops.some((hop) => hop.part === id || hop.parts?.includes(id))) continue;
    for (const hop of route.hops) if (hop.parts) hop.parts = hop.parts.filter((part) => part !== id);
    route.hops = route.hops.filter((hop) => hop.part !== id && hop.parts?.length !== 0);
    if (!["plate", "stream", "air", "body"].includes(route.hops.at(-1)?.kind ?? "") && box)
      route.hops.push({ id: freeId(draft, `${route.place}-air`), kind: "air", zone: box.id });
  }
  for (const workload of draft.workloads) {
    delete workload.movers?.[id];
    delete workload.watts[id];
    delete workload.burst?.[id];
  }
}

/** The air path that a part stands in. */
export const pathOf = (document: BuildDocument, part: string): AirPath | undefined =>
  document.air_paths.find((path) => leaves(path.elements).includes(part));

/** Turn the air of a path round: its ends, its elements and what its parts say of their direction. */
export function flipPath(draft: BuildDocument, id: string): void {
  const path = draft.air_paths.find((p) => p.id === id);
  if (!path) return;
  [path.from_zone, path.to_zone] = [path.to_zone, path.from_zone];
  path.elements = reversed(path.elements);
  for (const part of draft.parts)
    if (leaves(path.elements).includes(part.id) && part["direction"])
      part["direction"] = part["direction"] === "in" ? "out" : "in";
  const mixes = draft["recirculations"] as { from_path: string; to_path: string }[] | undefined;
  if (mixes) draft["recirculations"] = mixes.filter((mix) => mix.from_path !== id && mix.to_path !== id);
}

const POSITIONS: [number, number, number][] = [
  [0, 0, -1],
  [0, -1, 0],
  [0, 0, 1],
  [0, 1, 0],
  [-1, 0, 0],
  [1, 0, 0],
];

/** The face that lies below. */
export function lowerFace(document: BuildDocument): Face {
  const g = (document["housing"] as { gravity?: number[] } | undefined)?.gravity ?? [0, 0, -1];
  const axis = [0, 1, 2].reduce((best, i) => (Math.abs(g[i]!) > Math.abs(g[best]!) ? i : best), 0);
  return (
    [
      ["left", "right"],
      ["front", "back"],
      ["bottom", "top"],
    ] as Face[][]
  )[axis]![g[axis]! < 0 ? 0 : 1]!;
}

/** Turn the whole housing to the next of its six positions. */
export function turnHousing(draft: BuildDocument): void {
  const housing = (draft["housing"] ?? {}) as { gravity?: number[] };
  const now = housing.gravity ?? [0, 0, -1];
  const at = POSITIONS.findIndex((p) => p.every((v, i) => v === now[i]));
  draft["housing"] = { ...housing, gravity: POSITIONS[(at + 1) % POSITIONS.length] };
}

export function addChamber(draft: BuildDocument, name: string): string {
  const id = freeId(draft, name);
  draft["zones"] = [...zonesOf(draft), { id, name, kind: "box", wall_w_k: estimate(1, "40%") }];
  return id;
}

export function addOutside(draft: BuildDocument, name: string, airC: number | null): string {
  const id = freeId(draft, name);
  const where = airC === null ? { room: draft.rooms[0]!.id } : { air_c: airC };
  draft["zones"] = [...zonesOf(draft), { id, name, kind: "outside", ...where }];
  return id;
}

/** A path from one zone to another; it starts with one opening, since a path is never empty. */
export function addPath(draft: BuildDocument, name: string, from: string, to: string, face: Face | ""): string {
  const id = freeId(draft, `air-${name}`);
  const opening = {
    kind: "opening",
    name: `${name}, opening`,
    class: "opening_dense",
    area_cm2: estimate(100, "20%"),
    ...(face ? { face } : {}),
  };
  const [part] = addParts(draft, opening, 1);
  draft.air_paths.push({ id, name, from_zone: from, to_zone: to, elements: [part!] });
  return id;
}

/** A loop with what every loop has: pump, tube and reservoir. */
export function addLoop(draft: BuildDocument, name: string, pumpClass: string): string {
  const id = freeId(draft, name);
  const [pump] = addParts(draft, { kind: "pump", name: `${name} pump`, class: pumpClass }, 1);
  const tube = {
    kind: "tube",
    name: `${name} tube`,
    class: "tube_soft",
    length_m: estimate(1.5, "25%"),
    bore_mm: estimate(10, "5%"),
  };
  const [tubes] = addParts(draft, tube, 1);
  const tank = { kind: "reservoir", name: `${name} reservoir`, class: "reservoir_common", bore_mm: estimate(9, "10%") };
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
  const radiators = loop
    ? leaves(loop.elements).filter((id) => draft.parts.find((p) => p.id === id)?.kind === "radiator")
    : [];
  const last = radiators.at(-1);
  if (!loop || !last || radiators.length < 2) return;
  const old = draft.parts.find((p) => p.id === last)!;
  const path = pathOf(draft, last);
  if (path && leaves(path.elements).length === 1) {
    const area = (Number(old["section_mm"]) / 10) ** 2 * Number(old["sections"]);
    const guard = { kind: "opening", name: `${old.name ?? "Radiator"}, left open`, class: "opening_guard" };
    const [open] = addParts(draft, { ...guard, area_cm2: estimate(area, "5%") }, 1);
    path.elements = [open!];
  }
  removePart(draft, last);
}

/** A build of nothing but a room, a box and one workload. */
export function emptyBuild(name: string, roomC: number): Record<string, unknown> {
  return {
    format: "krill-build",
    version: 1,
    name,
    brief: { listener_m: 1, margin_wanted_k: 3, worst_workloads: ["full"] },
    rooms: [{ id: "room", name: "Room", air_c: roomC }],
    housing: { inner_size_mm: [400, 250, 180], gravity: [0, 0, -1] },
    zones: [
      { id: "outside", name: "Room air", kind: "outside", room: "room" },
      { id: "box", name: "Box", kind: "box", wall_w_k: estimate(2, "40%") },
    ],
    workloads: [{ id: "full", name: "Full", watts: {}, duration_min: 60 }],
  };
}

export type Recirculation = { id: string; from_path: string; to_path: string; recirculated_share: Figure };

export const recirculationOf = (document: BuildDocument, intake: string): Recirculation | undefined =>
  ((document["recirculations"] ?? []) as Recirculation[]).find((item) => item.to_path === intake);

/** The share of an intake's air that comes from the end of an exhaust path; 0 takes the recirculation away. */
export function recirculate(draft: BuildDocument, intake: string, exhaust: string, share: number): void {
  const others = ((draft["recirculations"] ?? []) as Recirculation[]).filter((item) => item.to_path !== intake);
  if (!exhaust || share <= 0) draft["recirculations"] = others;
  else {
    const old = recirculationOf(draft, intake);
    const id = old?.id ?? freeId(draft, `again-${intake}`);
    draft["recirculations"] = [...others, { id, from_path: exhaust, to_path: intake, recirculated_share: share }];
  }
}

/** A header of the board for fans; 1 A is what one carries by common practice. */
export function addHeader(draft: BuildDocument): string {
  const feeds = (draft["feeds"] ?? []) as { id: string }[];
  const id = freeId(draft, `header-${feeds.length + 1}`);
  draft["feeds"] = [...feeds, { id, name: `Header ${feeds.length + 1}`, kind: "header", limit_a: 1 }];
  return id;
}

/** Figures that a part may state and that its class does not name, with what they start at. */
export const OPTIONAL: Record<string, Record<string, number>> = {
  radiator: { factor: 1, air_factor: 1, covered_share: 0.5, dust: 0.5, drop_4_kpa: 3, volume_ml: 200 },
  plate: { factor: 1, volume_ml: 40 },
  pump: { level_dba: 30, highest_kpa: 60 },
  fan: { level_dba: 27, current_a: 0.2, start_duty: 0.2, highest_duty: 1 },
  cooler: { factor: 1, pressure_pa: 10 },
  duct: { leak_cm2: 1, loss: 1, roughness_mm: 0.05 },
  opening: { loss: 2.5, free_area_share: 0.5 },
  reservoir: { fill_share: 0.85, volume_ml: 180 },
  fitting: { highest_kpa: 100 },
  coupling: { highest_kpa: 150 },
  box: { cross_section_cm2: 400, wall_w_k: 2, heat_capacity_j_k: 2500 },
  outside: { air_c: 20 },
  loop: { volume_l: 0.8 },
  sink: {
    emissivity: 0.8,
    conductivity_w_mk: 195,
    base_mm: 8,
    fin_thickness_mm: 1.8,
    cut_share: 0.1,
    holes_share: 0.1,
    facing_mm: 50,
    bypass_cm2: 20,
    factor: 1,
  },
  panel: { emissivity: 0.8, conductivity_w_mk: 130, holes_share: 0.1, factor: 1 },
  heat_pipe: {
    diameter_mm: 8,
    flat_mm: 5,
    lift_mm: 0,
    bend_radius_mm: 25,
    groove_pitch_mm: 20,
    groove_mm2k_w: 25,
    uneven: 1.25,
    limit_w: 65,
  },
  spreader: { resistance_k_w: 0.05, width_mm: 40, length_mm: 40, thickness_mm: 8, conductivity_w_mk: 385 },
  interface: {
    resistance_mm2k_w: 14,
    coverage: 0.8,
    area_mm2: 900,
    bond_line_um: 40,
    conductivity_w_mk: 4,
    pressure_kpa: 500,
  },
};
