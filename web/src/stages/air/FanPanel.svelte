<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import { lineThrough, scaleOf } from "$lib/drawing/scale";
  import { fixed } from "$lib/units/format";
  import Faults from "$lib/ui/Faults.svelte";

  /** One fan's curve at its speed against what all else asks of it. */
  let { build, fan }: { build: BuildState; fan: string } = $props();
  const W = 268;
  const H = 176;
  const LEFT = 34;
  const BOTTOM = 26;
  const asked = new Asked<Schemas["FanOperation"]>();
  const operation = $derived(asked.answer);
  const part = $derived(build.document?.parts.find((p) => p.id === fan));

  $effect(() => {
    const document = build.document;
    const body = { fan, workload: build.workloadId, room_c: build.roomC };
    if (!document) return;
    return asked.ask((as) => client.POST("/api/fan-operation", { ...as, body: { document, ...body } }));
  });

  const mostFlow = $derived(Math.max(...(operation?.curve ?? [[1, 1]]).map((p) => p[0]!), 1) * 1.08);
  const mostPressure = $derived(Math.max(...(operation?.curve ?? [[1, 1]]).map((p) => p[1]!), 0.5) * 1.15);
  const x = $derived(scaleOf([0, mostFlow], [LEFT, W - 10]));
  const y = $derived(scaleOf([0, mostPressure], [H - BOTTOM, 16]));
  const line = $derived((points: number[][]) =>
    lineThrough(
      points
        .filter((p) => p[1]! <= mostPressure && p[0]! <= mostFlow * 1.001)
        .map((p) => [x(p[0]!), y(Math.max(p[1]!, 0))]),
    ),
  );
  const drops = $derived(operation?.path.filter((element) => element.kind !== "fan" && element.kind !== "leak") ?? []);
</script>

<section class="panel" aria-label="Fan in view">
  <h2>{part?.name || fan}</h2>
  <Faults faults={asked.faults} />
  {#if operation}
    <p class="soft">
      <span class="num">{fixed(operation.rpm, 0)}</span> rpm, <span class="num">{fixed(operation.airflow_m3_h)}</span>
      m³/h at
      <span class="num">{fixed(operation.pressure_pa)}</span> Pa
      {#if operation.stalled}<strong class="fault">in its stall region</strong>{/if}
    </p>
    <svg
      width={W}
      height={H}
      role="img"
      aria-label="Fan curve against the system: {fixed(operation.airflow_m3_h)} cubic metres an hour at {fixed(
        operation.pressure_pa,
      )} pascal"
    >
      <path d="M{LEFT} 10V{H - BOTTOM}H{W - 6}" fill="none" stroke="var(--soft)" />
      <text x="2" y="12">Pa</text>
      <text x={LEFT - 4} y={y(operation.curve[0]?.[1] ?? 0) + 4} text-anchor="end" class="num"
        >{fixed(operation.curve[0]?.[1], 0)}</text
      >
      <text x={W - 4} y={H - 9} text-anchor="end">m³/h</text>
      <text x={x(operation.curve.at(-1)?.[0] ?? 0)} y={H - 9} text-anchor="middle" class="num"
        >{x(operation.curve.at(-1)?.[0] ?? 0) < W - 60 ? fixed(operation.curve.at(-1)?.[0], 0) : ""}</text
      >
      <path d={line(operation.system)} fill="none" stroke="var(--soft)" stroke-width="2" stroke-dasharray="5 4" />
      <path d={line(operation.curve)} fill="none" stroke="var(--ink)" stroke-width="2.2" />
      <circle cx={x(operation.airflow_m3_h)} cy={y(operation.pressure_pa)} r="6" fill="var(--accent)" />
      <text x={x(operation.curve[9]?.[0] ?? 0) + 8} y={y(operation.curve[9]?.[1] ?? 0) - 2}>fan</text>
    </svg>
    <ul>
      {#each drops as element (element.address)}
        <li>
          <span class="soft">{element.name}</span><span class="num">{fixed(element.drop_pa)} Pa</span>
        </li>
      {/each}
    </ul>
  {:else if !asked.faults.length}
    <p class="soft">Solving …</p>
  {/if}
</section>

<style>
  ul {
    display: grid;
    grid-template-columns: 1fr;
    gap: 1px;
  }
  li {
    display: flex;
    justify-content: space-between;
    gap: 8px;
    font-size: 13.5px;
  }
  text {
    font-size: 12px;
    fill: var(--soft);
  }
</style>
