import { client } from "../api/client";
import type { Assembly } from "../document/assemblies";

/** What can be put into a build in one step, read once. */
class Assemblies {
  all = $state.raw<Assembly[]>([]);

  async load() {
    if (this.all.length) return;
    const { data } = await client.GET("/api/assemblies");
    this.all = data ?? [];
  }
}

export const assemblies = new Assemblies();
