/** What the Air stage draws, taken from the document and its solution. */
import type { Schemas, WorkloadResult } from "$lib/api/client";
import type { Face } from "$lib/document/build";
import { leaves } from "$lib/document/elements";
import { FACES } from "$lib/document/housing";
import type { BuildDocument, Part } from "$lib/document/build";

type PathResult = Schemas["AirPathResult"];

/** One path's parts on one face, with the air that passes there; ``into`` where it enters the housing. */
export type Mouth = {
  face: Face;
  path: string;
  name: string;
  chamber: string;
  parts: Part[];
  flow: number;
  into: boolean;
  celsius: number;
};

export const areaOf = (document: BuildDocument) =>
  (document["housing"] as { inner_size_mm?: number[] } | undefined)?.inner_size_mm;

const outsideOf = (document: BuildDocument) =>
  new Set(document.zones.filter((zone) => zone.kind === "outside").map((zone) => zone.id));

/** Every place where a path crosses a face of the housing. A path between chambers, or of a station, crosses none. */
export function mouths(document: BuildDocument, result: WorkloadResult): Mouth[] {
  const outside = outsideOf(document);
  return document.air_paths.flatMap((path) => {
    const solved = result.paths.find((p) => p.address === path.id);
    const inside = !outside.has(path.from_zone) && !outside.has(path.to_zone);
    if (!solved || inside) return [];
    const parts = leaves(path.elements).map((id) => document.parts.find((p) => p.id === id)!);
    const through = outside.has(path.from_zone) && outside.has(path.to_zone);
    const faces = FACES.filter((face) => parts.some((part) => part["face"] === face));
    return faces.map((face) => {
      const own = parts.filter((part) => part["face"] === face);
      const into = through
        ? intoAt(parts, face) === solved.from_zone.startsWith(path.from_zone)
        : outside.has(solved.from_zone);
      return {
        face,
        path: path.id,
        name: path.name || path.id,
        chamber: outside.has(path.from_zone) ? path.to_zone : path.from_zone,
        parts: own,
        flow: through ? shareAt(result, own, solved) : solved.airflow_m3_h,
        into,
        celsius: into ? solved.inlet_c : solved.outlet_c,
      };
    });
  });
}

/** A path from outside to outside enters by the face of its first part. */
const intoAt = (parts: Part[], face: Face) => parts.find((part) => part["face"])?.["face"] === face;

/** What passes the parts of one face: all of the path, or its branch where the path parts. */
function shareAt(result: WorkloadResult, parts: Part[], path: PathResult): number {
  const flows = parts
    .map((part) => result.air.find((element) => element.address === part.id)?.airflow_m3_h)
    .filter((flow) => flow !== undefined);
  return flows.length ? Math.max(...flows.map(Math.abs)) : path.airflow_m3_h;
}

/** Paths that cross no face: between chambers, or outside the housing. */
export function elsewhere(document: BuildDocument, result: WorkloadResult): PathResult[] {
  const drawn = new Set(mouths(document, result).map((mouth) => mouth.path));
  return result.paths.filter((path) => !drawn.has(path.address));
}

/** Of those the ones that begin and end outside: a station beside the housing. */
export function stations(document: BuildDocument, result: WorkloadResult): PathResult[] {
  const outside = outsideOf(document);
  return elsewhere(document, result).filter((path) => outside.has(path.from_zone) && outside.has(path.to_zone));
}

export const zoneName = (document: BuildDocument, id: string) =>
  document.zones.find((zone) => zone.id === id)?.name || id;

/** What stands close to a face, in millimetres. */
export function nearby(document: BuildDocument, face: Face): number | undefined {
  const housing = document["housing"] as { feet_mm?: number; nearby_mm?: Record<string, number> } | undefined;
  return housing?.nearby_mm?.[face] ?? (face === "bottom" ? housing?.feet_mm : undefined);
}

export const closed = (document: BuildDocument, face: Face) =>
  ((document["housing"] as { closed_faces?: string[] } | undefined)?.closed_faces ?? []).includes(face);

/** The face that a body lies on. */
export const faceOf = (document: BuildDocument, id: string) =>
  document.parts.find((part) => part.id === id)?.["face"] as Face | undefined;

type Body = WorkloadResult["bodies"][number];

/** W that a body gives off on one of its sides. */
export const given = (body: Body, side: string) =>
  body.ways.filter((way) => way.side === side).reduce((sum, way) => sum + way.watts, 0);
export const toRoom = (body: Body) => given(body, "outside");
