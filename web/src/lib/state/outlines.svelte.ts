import { client, type Schemas } from "../api/client";

/** Outlines by class and what lies in stacks, read once: first guesses until somebody measures. */
class Outlines {
  bodies = $state.raw<Schemas["BodyOut"][]>([]);
  layers = $state.raw<Schemas["LayerOut"][]>([]);

  async load() {
    if (this.bodies.length) return;
    const { data } = await client.GET("/api/outlines");
    this.bodies = data?.bodies ?? [];
    this.layers = data?.layers ?? [];
  }
}

export const outlines = new Outlines();
