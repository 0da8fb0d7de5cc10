/** Rooms that a build is judged in: added beside the first one, and taken out of everything that names them. */
import { valueOf, type BuildDocument } from "./build";
import { freeId } from "./ids";

/** how much cooler and hotter the days of a common room are, until somebody says otherwise (common practice) */
const DAY_K = 5;

/** One more room: the cool day and the hot day of the first one where they are missing, else a further one. */
export function addRoom(draft: BuildDocument): string {
  const first = draft.rooms[0]!;
  const common = valueOf(first.air_c) ?? 24;
  const brief = (draft.brief = draft.brief ?? {});
  const of = (name: string, air_c: number) => {
    const id = freeId(draft, name);
    draft.rooms.push({ id, name, air_c, ...(first.altitude_m ? { altitude_m: first.altitude_m } : {}) });
    return id;
  };
  if (!brief.hottest_room) return (brief.hottest_room = of("Hot day", common + DAY_K));
  if (!brief.coolest_room) return (brief.coolest_room = of("Cool day", common - DAY_K));
  return of(`Room ${draft.rooms.length + 1}`, common);
}

/** Take a room out; the first one stays, and one that an outside zone has its air from. */
export function removeRoom(draft: BuildDocument, id: string): void {
  if (draft.rooms[0]?.id === id || inUse(draft, id)) return;
  draft.rooms = draft.rooms.filter((room) => room.id !== id);
  const brief = draft.brief;
  if (brief?.hottest_room === id) delete brief.hottest_room;
  if (brief?.coolest_room === id) delete brief.coolest_room;
}

/** Whether an outside zone has its air from a room. */
export const inUse = (document: BuildDocument, id: string) => document.zones.some((zone) => zone.room === id);
