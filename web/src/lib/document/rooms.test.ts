import { describe, expect, it } from "vitest";
import { emptyBuild } from "./empty";
import { addRoom, inUse, removeRoom } from "./rooms";

describe("rooms", () => {
  it("are the hot day first, then the cool one, then further ones as warm as the first", () => {
    const draft = emptyBuild("t", 22);
    draft.rooms[0]!.altitude_m = 800;
    for (let n = 0; n < 3; n += 1) addRoom(draft);
    expect(draft.rooms.slice(1)).toEqual([
      { id: "hot-day", name: "Hot day", air_c: 27, altitude_m: 800 },
      { id: "cool-day", name: "Cool day", air_c: 17, altitude_m: 800 },
      { id: "room-4", name: "Room 4", air_c: 22, altitude_m: 800 },
    ]);
    expect(draft.brief).toMatchObject({ hottest_room: "hot-day", coolest_room: "cool-day" });
  });

  it("taken out leave the brief, too; the first one and one that a zone breathes stay", () => {
    const draft = emptyBuild("t", 22);
    const hot = addRoom(draft);
    const other = addRoom(draft);
    draft.zones.push({ id: "hut", kind: "outside", room: other });
    expect(inUse(draft, other)).toBe(true);
    for (const id of [hot, other, draft.rooms[0]!.id]) removeRoom(draft, id);
    expect(draft.rooms.map((room) => room.id)).toEqual([draft.rooms[0]!.id, other]);
    expect(draft.brief!.hottest_room).toBeUndefined();
    expect(draft.brief!.coolest_room).toBe(other);
  });
});
