<script lang="ts">
  import { client, type LoopResult, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import { lineThrough, scaleOf } from "$lib/drawing/scale";
  import { fixed } from "$lib/units/format";
  import Faults from "$lib/ui/Faults.svelte";

  /** Pump curve, the loop's own curve, and where they meet. */
  let { build, loop }: { build: BuildState; loop: LoopResult } = $props();
  const W = 220;
  const H = 178;
  const asked = new Asked<Schemas["LoopCurves"]>();
  const pump = $derived(loop.pumps[0]);
  const curves = $derived(asked.answer);
  const points = $derived(curves?.pumps.find((curve) => curve.address === pump?.address)?.points ?? []);

  // by value: bands of the same loop ask for no other curve
  const address = $derived(loop.address);
  const hasPump = $derived(loop.pumps.length > 0);
  $effect(() => {
    const document = build.document;
    const body = { loop: address, workload: build.workloadId, room_c: build.roomC };
    if (!document || !hasPump || build.unknown) return;
    return asked.ask((as) => client.POST("/api/loop-curves", { ...as, body: { document, ...body } }));
  });

  const maxFlow = $derived(Math.max(pump?.free_flow_l_min ?? 1, loop.flow_l_min * 1.3, 0.1));
  const maxHead = $derived(Math.max(pump?.shutoff_kpa ?? 1, 0.1) * 1.12);
  const x = $derived(scaleOf([0, maxFlow], [30, W - 10]));
  const y = $derived(scaleOf([0, maxHead], [H - 24, 20]));
  const line = $derived((of: number[][]) =>
    lineThrough(of.filter((p) => p[1]! <= maxHead * 1.02).map((p) => [x(p[0]!), y(p[1]!)])),
  );
</script>

{#if !build.unknown}<Faults faults={asked.faults} />{/if}
{#if pump}
  <svg
    width={W}
    height={H}
    role="img"
    aria-label="Pump against loop: {fixed(loop.flow_l_min)} l/min at {fixed(pump.head_kpa, 0)} kPa"
  >
    <path d="M30 14V{H - 24}H{W - 6}" fill="none" stroke="var(--soft)" />
    <text x="2" y="12">kPa</text>
    <text x="26" y={y(pump.shutoff_kpa) + 4} text-anchor="end" class="num">{fixed(pump.shutoff_kpa, 0)}</text>
    <text x={W - 4} y={H - 8} text-anchor="end">l/min</text>
    <path d={line(curves?.loop_curve ?? [])} fill="none" stroke="var(--soft)" stroke-width="2" stroke-dasharray="5 4" />
    <path d={line(points)} fill="none" stroke="var(--ink)" stroke-width="2.200" />
    <circle cx={x(pump.flow_l_min)} cy={y(pump.head_kpa)} r="6" fill="var(--accent)" />
    <text x={x(pump.flow_l_min) + 10} y={y(pump.head_kpa) - 8} class="strong">{fixed(pump.flow_l_min)} l/min</text>
    {#if points.length}<text x={x(maxFlow * 0.62)} y={y(points[12]?.[1] ?? 0) - 8}>pump</text>{/if}
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
