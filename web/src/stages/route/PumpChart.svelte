<script lang="ts">
  import type { LoopResult } from "$lib/api/client";
  import { lineThrough, scaleOf } from "$lib/drawing/scale";
  import { fixed } from "$lib/units/format";

  /** Pump curve, the loop's own curve, and where they meet. */
  let { loop }: { loop: LoopResult } = $props();
  const W = 220;
  const H = 178;
  const pump = $derived(loop.pumps[0]);
  const mostFlow = $derived(Math.max(...(pump?.points ?? [[1]]).map((p) => p[0] ?? 0), loop.flow_l_min * 1.3, 0.1));
  const mostHead = $derived(Math.max(...(pump?.points ?? [[0, 1]]).map((p) => p[1] ?? 0), 0.1) * 1.12);
  const x = $derived(scaleOf([0, mostFlow], [30, W - 10]));
  const y = $derived(scaleOf([0, mostHead], [H - 24, 20]));
  const line = $derived((points: number[][]) =>
    lineThrough(points.filter((p) => p[1]! <= mostHead * 1.02).map((p) => [x(p[0]!), y(p[1]!)])),
  );
</script>

{#if pump}
  <svg
    width={W}
    height={H}
    role="img"
    aria-label="Pump against loop: {fixed(loop.flow_l_min)} l/min at {fixed(pump.head_kpa, 0)} kPa"
  >
    <path d="M30 14V{H - 24}H{W - 6}" fill="none" stroke="var(--soft)" />
    <text x="2" y="12">kPa</text>
    <text x="26" y={y(pump.points[0]?.[1] ?? 0) + 4} text-anchor="end" class="num">{fixed(pump.points[0]?.[1], 0)}</text
    >
    <text x={W - 4} y={H - 8} text-anchor="end">l/min</text>
    <path d={line(loop.loop_curve)} fill="none" stroke="var(--soft)" stroke-width="2" stroke-dasharray="5 4" />
    <path d={line(pump.points)} fill="none" stroke="var(--ink)" stroke-width="2.200" />
    <circle cx={x(pump.flow_l_min)} cy={y(pump.head_kpa)} r="6" fill="var(--accent)" />
    <text x={x(pump.flow_l_min) + 10} y={y(pump.head_kpa) - 8} class="strong">{fixed(pump.flow_l_min)} l/min</text>
    <text x={x(mostFlow * 0.62)} y={y(pump.points[12]?.[1] ?? 0) - 8}>pump</text>
    <text x={x(pump.flow_l_min) - 22} y={y(pump.head_kpa * 0.4)} text-anchor="end">loop</text>
  </svg>
{/if}

<style>
  svg {
    flex-shrink: 0;
  }
  text {
    font-size: 12.5px;
    fill: var(--soft);
  }
  .strong {
    fill: var(--ink);
    font-weight: 650;
  }
</style>
