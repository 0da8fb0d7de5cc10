import { client, type Schemas } from "../api/client";

/** Outlines by class, what lies in stacks, leads and joints, read once: first guesses until somebody measures. */
class Outlines {
  bodies = $state.raw<Schemas["BodyOut"][]>([]);
  layers = $state.raw<Schemas["LayerOut"][]>([]);
  leads = $state.raw<Schemas["KindOut"][]>([]);
  plugs = $state.raw<Schemas["KindOut"][]>([]);
  fittings = $state.raw<Schemas["KindOut"][]>([]);
  joints = $state.raw<Schemas["KindOut"][]>([]);

  async load() {
    if (this.bodies.length) return;
    const { data } = await client.GET("/api/outlines");
    if (data) Object.assign(this, data);
  }
}

export const outlines = new Outlines();
