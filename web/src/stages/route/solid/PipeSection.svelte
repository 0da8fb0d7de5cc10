<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { fixed } from "$lib/units/format";

  /** A heat pipe cut across (wall, wick, vapour) and along (heated, free and cooled length, bends, lift), to scale. */
  let { pipe }: { pipe: Schemas["PipeResult"] } = $props();
  const W = 336;
  const H = 128;
  const R = 36;
  const perMm = $derived((2 * R) / pipe.diameter_mm);
  const flat = $derived(pipe.flat_mm ?? pipe.diameter_mm);
  const width = $derived(flat + (Math.PI * (pipe.diameter_mm - flat)) / 2);
  const rings = $derived(
    [0, pipe.wall_mm, pipe.wall_mm + pipe.wick_mm].map((inset) => ({
      w: Math.max(width - 2 * inset, 0) * perMm * Math.min(1, (2 * R) / (width * perMm)),
      h: Math.max(flat - 2 * inset, 0) * perMm * Math.min(1, (2 * R) / (width * perMm)),
    })),
  );
  const FILLS = ["var(--ink)", "var(--soft)", "var(--panel)"];
  const total = $derived(pipe.evaporator_mm + pipe.adiabatic_mm + pipe.condenser_mm);
  const along = $derived(190 / total);
  const rise = $derived(Math.max(-28, Math.min(28, (pipe.lift_mm / total) * 190)));
  const X = 130;
  const MID = 62;
  const thick = $derived(Math.max(pipe.diameter_mm * along, 5));
  const ends = $derived({ a: X + pipe.evaporator_mm * along, b: X + (pipe.evaporator_mm + pipe.adiabatic_mm) * along });
</script>

<figure>
  <svg width={W} height={H} role="img" aria-label="Heat pipe across and along, to scale" data-testid="section">
    {#each rings as ring, i (i)}
      <rect
        x={56 - ring.w / 2}
        y={MID - ring.h / 2}
        width={ring.w}
        height={ring.h}
        rx={Math.min(ring.w, ring.h) / 2}
        fill={FILLS[i]}
      />
    {/each}
    <text x="56" y={H - 6} text-anchor="middle" class="num"
      >{fixed(pipe.diameter_mm)} mm{pipe.flat_mm ? `, pressed to ${fixed(pipe.flat_mm)}` : ""}</text
    >
    <path
      d="M{X} {MID - rise / 2}H{ends.a}L{ends.b} {MID + rise / 2}H{X + total * along}"
      fill="none"
      stroke="var(--soft)"
      stroke-width={thick}
      stroke-linejoin="round"
    />
    <path d="M{X} {MID - rise / 2}H{ends.a}" stroke="var(--too-hot)" stroke-width={thick} />
    <path d="M{ends.b} {MID + rise / 2}H{X + total * along}" stroke="var(--slate)" stroke-width={thick} />
    <text x={(X + ends.a) / 2} y={MID - rise / 2 - thick / 2 - 5} text-anchor="middle" class="num"
      >{fixed(pipe.evaporator_mm, 0)}</text
    >
    <text x={(ends.a + ends.b) / 2} y={MID + thick / 2 + 17} text-anchor="middle" class="num"
      >{fixed(pipe.adiabatic_mm, 0)}</text
    >
    <text x={(ends.b + X + total * along) / 2} y={MID + rise / 2 - thick / 2 - 5} text-anchor="middle" class="num"
      >{fixed(pipe.condenser_mm, 0)} mm</text
    >
    <text x={X + 95} y={H - 6} text-anchor="middle"
      >{pipe.count} pipes, {pipe.bends} bend{pipe.bends === 1 ? "" : "s"}; evaporator {Math.abs(pipe.lift_mm) < 0.5
        ? "level"
        : `${fixed(Math.abs(pipe.lift_mm), 0)} mm ${pipe.lift_mm > 0 ? "above" : "below"}`}</text
    >
  </svg>
</figure>

<style>
  figure {
    background: var(--sunk);
    border-radius: 6px;
    margin-bottom: 8px;
  }
  text {
    font-size: 12px;
    fill: var(--soft);
  }
</style>
