<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { lineThrough, scaleOf } from "$lib/drawing/scale";
  import { fixed, signed } from "$lib/units/format";

  /** What the room that is left costs, from the network: kelvins over the gap, and where the slot stands. */
  let { cost }: { cost: Schemas["GapCost"] } = $props();
  const W = 210;
  const H = 128;
  const known = $derived(cost.curve.filter((point): point is [number, number] => point[1] !== null));
  const mostMm = $derived(Math.max(20, Math.min(Math.ceil(cost.left_mm / 10) * 10, 30)));
  const inView = $derived(known.filter(([mm]) => mm <= mostMm));
  // a gap that chokes costs more than any drawing shows: the curve leaves the picture there
  const mostK = $derived(
    Math.max(2, Math.min(Math.max(...inView.map(([, k]) => k), 1), Math.max((cost.costs_k ?? 0) * 1.4, 10))),
  );
  const x = $derived(scaleOf([0, mostMm], [26, W - 8]));
  const y = $derived(scaleOf([0, mostK], [H - 22, 12]));
  const line = $derived(lineThrough(inView.filter(([, k]) => k <= mostK * 1.02).map(([mm, k]) => [x(mm), y(k)])));
</script>

<figure>
  <figcaption>
    <strong>What the gap costs</strong>
    <span class="soft">K on {cost.place}</span>
  </figcaption>
  <svg
    width={W}
    height={H}
    role="img"
    aria-label="{fixed(cost.left_mm)} mm cost {fixed(cost.costs_k)} K on {cost.place}"
  >
    <path d="M26 8V{H - 22}H{W - 6}" class="axis" />
    {#each y.ticks(3) as k (k)}<text x="21" y={y(k) + 4} text-anchor="end">{k}</text>{/each}
    {#each x.ticks(4) as mm (mm)}<text x={x(mm)} y={H - 7} text-anchor="middle">{mm}</text>{/each}
    <path d={line} class="curve" />
    <circle
      cx={x(Math.min(cost.left_mm, mostMm))}
      cy={y(Math.min(cost.costs_k ?? mostK, mostK))}
      r="6"
      fill="var(--accent)"
    />
  </svg>
  {#if cost.costs_k === null}
    <p class="fault">Nothing lasts: no air passes.</p>
  {:else}
    <p>
      <span class="num big">{signed(cost.costs_k)}</span> K, <span class="num big">{signed(cost.costs_dba)}</span> dBA
      <span class="soft">at {fixed(cost.left_mm)} mm, against free room</span>
    </p>
  {/if}
</figure>

<style>
  figure {
    margin: 0;
  }
  figcaption {
    display: flex;
    gap: 8px;
    align-items: baseline;
    flex-wrap: wrap;
  }
  .axis {
    fill: none;
    stroke: var(--soft);
  }
  .curve {
    fill: none;
    stroke: var(--ink);
    stroke-width: 2;
  }
  text {
    font-size: 11.5px;
    font-family: var(--font-mono);
    fill: var(--soft);
  }
  p {
    font-size: 13.5px;
  }
  .big {
    font-size: 16px;
    font-weight: 650;
  }
</style>
