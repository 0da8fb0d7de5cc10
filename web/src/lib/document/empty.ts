import type { components } from "../api/schema";
import { opened, type BuildDocument } from "./build";
import { estimate } from "./parts";

type Stored = components["schemas"]["Build"];

/** A build of nothing but a room, a box and one workload. */
export function emptyBuild(name: string, roomC: number): BuildDocument {
  const made: Stored = {
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
  return opened(made);
}
