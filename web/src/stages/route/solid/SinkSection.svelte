<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { fixed } from "$lib/units/format";

  /** A sink cut across its fins, to scale, turned as it stands; or a panel cut through. */
  let { body }: { body: Schemas["BodyResult"] } = $props();
  const W = 336;
  const H = 132;
  const scale = $derived(
    Math.min((W - 60) / body.width_mm, (H - 48) / Math.max((body.fin_height_mm ?? 0) + body.base_mm, 12)),
  );
  const left = $derived((W - body.width_mm * scale) / 2);
  const base = $derived(Math.max(body.base_mm * scale, 1.5));
  const height = $derived((body.fin_height_mm ?? 0) * scale);
  const count = $derived(Math.floor((body.fins ?? 0) + 1e-6));
  const thickness = $derived(Math.max((body.fin_thickness_mm ?? 0) * scale, 0.8));
  const pitch = $derived(count > 1 ? (body.width_mm * scale - thickness) / (count - 1) : 0);
  const floor = $derived(body.stands === "lying_fins_down" ? 22 : H - 26 - base);
  const up = $derived(body.stands === "lying_fins_down" ? 1 : -1);
  const fins = $derived(Array.from({ length: count }, (_, i) => left + i * pitch));
  const WORDS: Record<string, string> = {
    upright: "stands upright, air rises along the fins",
    on_edge: "on edge: its fins lie across the way of the air",
    lying_fins_up: "lies, fins up",
    lying_fins_down: "lies, fins down",
    vertical: "vertical",
    facing_up: "lies, outside up",
    facing_down: "lies, outside down",
  };
</script>

<figure>
  <svg
    width={W}
    height={H}
    role="img"
    aria-label="Cross-section to scale: {fixed(body.width_mm, 0)} mm wide, {count} fins"
    data-testid="section"
  >
    <rect x={left} y={floor} width={body.width_mm * scale} height={base} fill="var(--ink)" rx="1" />
    {#each fins as x, i (i)}
      <rect {x} y={up < 0 ? floor - height : floor + base} width={thickness} {height} fill="var(--ink)" />
    {/each}
    <path d="M{left} {H - 16}h{body.width_mm * scale}" stroke="var(--soft)" />
    <path d="M{left} {H - 19}v6M{left + body.width_mm * scale} {H - 19}v6" stroke="var(--soft)" />
    <text x={W / 2} y={H - 3} text-anchor="middle" class="num">{fixed(body.width_mm, 0)} mm</text>
    {#if body.fin_height_mm}
      <text x={left - 6} y={(up < 0 ? floor - height / 2 : floor + base + height / 2) + 4} text-anchor="end" class="num"
        >{fixed(body.fin_height_mm, 0)}</text
      >
      <text x={left + body.width_mm * scale + 6} y={floor + base / 2 + 4} class="num">{fixed(body.base_mm)}</text>
    {/if}
  </svg>
  <figcaption class="soft text-sm">
    {count ? `${count} fins, ${fixed(body.spacing_mm)} mm clear between them; ` : ""}{WORDS[body.stands] ??
      body.stands}; {fixed(body.height_mm, 0)} mm {count ? "along the fins" : "the other way"}, {fixed(
      body.mass_g / 1000,
      2,
    )} kg
  </figcaption>
</figure>

<style>
  figure {
    background: var(--sunk);
    border-radius: 6px;
    padding: 4px 0 6px;
    text-align: center;
    margin-bottom: 8px;
  }
  text {
    font-size: 12px;
    fill: var(--soft);
  }
</style>
