import { client, type Schemas } from "../api/client";

/** Class-typical parts, read once: what a figure is while nobody has measured it. */
class Classes {
  all = $state.raw<Schemas["ClassOut"][]>([]);

  async load() {
    if (this.all.length) return;
    const { data } = await client.GET("/api/classes");
    this.all = data ?? [];
  }

  byId(id: string | null | undefined): Schemas["ClassOut"] | undefined {
    return this.all.find((item) => item.id === id);
  }

  of(kind: string): Schemas["ClassOut"][] {
    return this.all.filter((item) => item.kind === kind);
  }
}

export const classes = new Classes();
