<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import { roomAddress } from "$lib/document/addresses";
  import { questionOf, steps, type MapAxis } from "$lib/document/vary";
  import { css, heat } from "$lib/drawing/colour";
  import { zeroLine } from "$lib/drawing/contour";
  import { position } from "$lib/drawing/scale";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { fixed } from "$lib/units/format";
  import Faults from "$lib/ui/Faults.svelte";

  /** Two figures over each other: where the wanted margin holds, where the ceiling is kept, where the build stands. */
  let { build }: { build: BuildState } = $props();
  const HEIGHT = 400;
  const LEFT = 62;
  const RIGHT = 16;
  const TOP = 14;
  const BOTTOM = 44;
  const FINE = 21;
  const asked = new Asked<Schemas["DesignMap"]>();
  let width = $state(640);
  let xId = $state("");
  let yId = $state("");
  let reach = $state<Record<string, [number, number]>>({});
  let wanted = $state<number | null>(null);
  let pointed = $state<{ row: number; column: number } | null>(null);

  const offers = new Asked<Schemas["Offers"]>();
  $effect(() => {
    const { document, workloadId: workload } = build;
    if (document && workload)
      return offers.ask(() => client.POST("/api/offers", { body: { document, workload } }), 150);
  });
  const offered = $derived(offers.answer?.numbers ?? []);
  const xAxis = $derived(offered.find((a) => a.address === xId) ?? offered[0]);
  const yAxis = $derived(offered.find((a) => a.address === yId && a !== xAxis) ?? offered.find((a) => a !== xAxis));
  const margin = $derived(wanted ?? build.document?.brief?.margin_wanted_k ?? 3);
  const ceiling = $derived(build.workload?.sound_ceiling_dba);

  function optionsOf(axis: MapAxis) {
    const [low, high] = reach[axis.address] ?? [axis.low, axis.high];
    const values = axis.whole
      ? Array.from({ length: Math.max(high - low + 1, 1) }, (_, i) => low + i)
      : steps(low, high, FINE);
    return { address: axis.address, options: values.map((value) => ({ value })) };
  }

  const roomVaries = $derived(
    Boolean(build.document && [xAxis, yAxis].some((axis) => axis?.address === roomAddress(build.document!))),
  );
  $effect(() => {
    const document = build.document;
    if (!document || !xAxis || !yAxis) return;
    const demands = {
      margins: [{ workload: build.workloadId, place: null, at_least_k: margin }],
      sounds: ceiling === undefined || ceiling === null ? [] : [{ workload: build.workloadId, at_most_dba: ceiling }],
    };
    const room = roomVaries ? null : build.roomC;
    const question = questionOf([optionsOf(yAxis), optionsOf(xAxis)], demands, room, ["margin"]);
    return asked.ask(() => client.POST("/api/map", { body: { document, question } }), 250);
  });

  const answer = $derived(asked.answer);
  const rows = $derived(answer?.axes[0]?.values ?? []);
  const columns = $derived(answer?.axes[1]?.values ?? []);
  const x = $derived(
    (column: number) => LEFT + ((column + 0.5) / Math.max(columns.length, 1)) * (width - LEFT - RIGHT),
  );
  const y = $derived(
    (row: number) => HEIGHT - BOTTOM - ((row + 0.5) / Math.max(rows.length, 1)) * (HEIGHT - BOTTOM - TOP),
  );
  const cell = $derived({
    width: (width - LEFT - RIGHT) / Math.max(columns.length, 1),
    height: (HEIGHT - BOTTOM - TOP) / Math.max(rows.length, 1),
  });
  const RAMP = [0, 8, 16, 24, 32, 40];
  /** Temperature colours: no margin left is the limit, 40 K of it is cool. */
  const colour = (value: number | null | undefined) => (value == null ? "var(--sunk)" : css(heat(1 - value / 40)));

  const holdsLine = $derived(zeroLine(answer?.spare_k ?? [], x, y));
  const soundLine = $derived(ceiling === undefined ? "" : zeroLine(answer?.spare_db ?? [], x, y));
  const here = $derived.by(() => {
    const [row, column] = [position(rows, answer?.axes[0]?.now), position(columns, answer?.axes[1]?.now)];
    return row === null || column === null ? null : { x: x(column), y: y(row) };
  });
  const held = $derived(answer?.spare_k.flat().filter((v) => v !== null && v >= 0).length ?? 0);
  const show = (axis: MapAxis | undefined, value: number) =>
    axis?.address.startsWith("movers/")
      ? `${Math.round(100 * value)} %`
      : `${Number(value.toPrecision(3))} ${axis?.unit ?? ""}`;
  const every = (values: number[]) => Math.max(1, Math.ceil(values.length / 7));
</script>

{#snippet range(axis: MapAxis | undefined)}
  {#if axis}
    {@const scale = axis.address.startsWith("movers/") ? 100 : 1}
    {@const now = reach[axis.address] ?? [axis.low, axis.high]}
    <NumberField
      label="from"
      value={scale * now[0]}
      low={0}
      high={scale * now[1]}
      width={62}
      onchange={(v) => (reach[axis.address] = [v / scale, now[1]])}
    />
    <NumberField
      label="to"
      value={scale * now[1]}
      unit={scale === 100 ? "%" : axis.unit}
      low={scale * now[0]}
      high={scale === 100 ? 100 : 1e5}
      width={62}
      onchange={(v) => (reach[axis.address] = [now[0], v / scale])}
    />
  {/if}
{/snippet}

<section class="panel mt-3" aria-label="Map over two figures">
  <p class="flex flex-wrap items-center gap-x-4 gap-y-2">
    <label
      >Across <select class="field max-w-56" value={xAxis?.address} onchange={(e) => (xId = e.currentTarget.value)}>
        {#each offered as axis (axis.address)}<option value={axis.address}>{axis.name}</option>{/each}
      </select></label
    >
    {@render range(xAxis)}
    <label
      >Upwards <select class="field max-w-56" value={yAxis?.address} onchange={(e) => (yId = e.currentTarget.value)}>
        {#each offered.filter((a) => a !== xAxis) as axis (axis.address)}<option value={axis.address}
            >{axis.name}</option
          >{/each}
      </select></label
    >
    {@render range(yAxis)}
    <NumberField
      label="Holds with"
      unit="K"
      value={margin}
      low={-20}
      high={80}
      width={58}
      onchange={(v) => (wanted = v)}
    />
  </p>
  <Faults faults={asked.faults} alert />
  <div class="map mt-2" bind:clientWidth={width} class:asking={asked.busy} aria-busy={asked.busy}>
    {#if answer}
      <svg
        {width}
        height={HEIGHT}
        role="img"
        aria-label="Least margin over {xAxis?.name} and {yAxis?.name}"
        data-testid="map"
      >
        {#each answer.margin_k as row, r (r)}
          {#each row as value, c (c)}
            <rect
              x={x(c) - cell.width / 2}
              y={y(r) - cell.height / 2}
              width={cell.width}
              height={cell.height}
              shape-rendering="crispEdges"
              fill={colour(value)}
              fill-opacity={(answer.spare_k[r]?.[c] ?? -1) >= 0 ? 1 : 0.45}
              role="presentation"
              onpointerenter={() => (pointed = { row: r, column: c })}
            />
          {/each}
        {/each}
        {#each columns as value, c (c)}
          {#if c % every(columns) === 0}<text x={x(c)} y={HEIGHT - BOTTOM + 17} text-anchor="middle" class="num"
              >{show(xAxis, value)}</text
            >{/if}
        {/each}
        {#each rows as value, r (r)}
          {#if r % every(rows) === 0}<text x={LEFT - 6} y={y(r) + 4} text-anchor="end" class="num"
              >{show(yAxis, value)}</text
            >{/if}
        {/each}
        <text x={(LEFT + width - RIGHT) / 2} y={HEIGHT - 6} text-anchor="middle">{xAxis?.name}</text>
        <path d={holdsLine} class="line" stroke="var(--panel)" stroke-width="5.500" />
        <path d={holdsLine} class="line" stroke="var(--ink)" stroke-width="2.600" data-contour="holds" />
        <path d={soundLine} class="line" stroke="var(--panel)" stroke-width="4.500" />
        <path
          d={soundLine}
          class="line"
          stroke="var(--ink)"
          stroke-width="1.800"
          stroke-dasharray="6 4"
          data-contour="sound"
        />
        {#if here}
          <g data-testid="present">
            <circle cx={here.x} cy={here.y} r="8" fill="var(--panel)" stroke="var(--accent)" stroke-width="3" />
            <circle cx={here.x} cy={here.y} r="2.500" fill="var(--accent)" />
          </g>
        {/if}
      </svg>
    {:else if !asked.faults.length}
      <p class="soft p-4" role="status">Solving every crossing …</p>
    {/if}
  </div>
  {#if answer}
    <p class="text-sm">
      <svg width="30" height="10" aria-hidden="true"><path d="M0 5H30" stroke="var(--ink)" stroke-width="2.600" /></svg>
      <strong
        >{held
          ? held === rows.length * columns.length
            ? "It holds everywhere here:"
            : "Where the colours are full it holds:"
          : "It holds nowhere here:"}</strong
      >
      <span class="soft"
        >every part keeps {fixed(margin, 0)} K in {build.workload?.name || build.workloadId}{roomVaries
          ? ""
          : `, room ${fixed(answer.room_c, 0)} °C`}{ceiling === undefined ? "" : "; dashed:"}</span
      >
      {#if ceiling !== undefined}
        <svg width="30" height="10" aria-hidden="true"
          ><path d="M0 5H30" stroke="var(--ink)" stroke-width="1.800" stroke-dasharray="6 4" /></svg
        >
        <span class="soft">the ceiling of {fixed(ceiling, 0)} dBA</span>
      {/if}
      <span class="soft">· colours:</span>
      <svg width={RAMP.length * 12} height="10" aria-hidden="true">
        {#each RAMP as left, i (left)}<rect x={i * 12} width="12" height="10" fill={colour(left)} />{/each}
      </svg>
      <span class="soft">0 to {RAMP.at(-1)} K left</span>
      <span class="soft">· {here ? "the ring is the build as it stands" : "the build as it stands lies outside"}</span>
    </p>
    <p class="num text-sm" aria-live="polite">
      {#if pointed}
        {show(yAxis, rows[pointed.row] ?? 0)}, {show(xAxis, columns[pointed.column] ?? 0)}: {fixed(
          answer.margin_k[pointed.row]?.[pointed.column],
        )} K of margin, {fixed(answer.level_dba[pointed.row]?.[pointed.column])} dBA
      {:else}&nbsp;{/if}
    </p>
  {/if}
</section>

<style>
  text {
    font-size: 12px;
    fill: var(--soft);
  }
  .line {
    fill: none;
    pointer-events: none;
  }
  p svg {
    display: inline-block;
    vertical-align: middle;
  }
</style>
