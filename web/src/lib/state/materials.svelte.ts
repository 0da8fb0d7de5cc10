import { client, type Schemas } from "../api/client";
import { fieldOf } from "../document/addresses";

type Material = Schemas["MaterialOut"];

/** Materials and finishes, read once: what a part is made of says what nobody stated. */
class Materials {
  all = $state.raw<Material[]>([]);

  async load() {
    if (this.all.length) return;
    const { data } = await client.GET("/api/materials");
    this.all = data ?? [];
  }

  of(sort: Material["sort"]): Material[] {
    return this.all.filter((item) => item.sort === sort);
  }

  /** Conductivity and emissivity of a part that its material and finish give, [value, half width]. */
  figuresOf(kind: string, part: object | undefined): Record<string, number[]> {
    if (!["sink", "panel", "spreader"].includes(kind)) return {};
    const material = this.all.find(
      (item) => item.id === (fieldOf(part, "material") ?? (kind === "spreader" ? "copper" : "aluminium_extruded")),
    );
    const finish = this.of("finish").find((item) => item.id === fieldOf(part, "finish"));
    const found: Record<string, number[]> = {};
    if (material?.conductivity_w_mk) found["conductivity_w_mk"] = material.conductivity_w_mk;
    const emissivity = finish?.emissivity ?? material?.emissivity;
    if (emissivity && kind !== "spreader") found["emissivity"] = emissivity;
    return found;
  }
}

export const materials = new Materials();
