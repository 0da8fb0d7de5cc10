<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import type { MapAxis } from "$lib/document/vary";
  import { zeroLine } from "$lib/drawing/contour";
  import { position } from "$lib/drawing/scale";
  import { type Crossing, lessBand, marginColour, shownOn } from "./map";

  /** Every crossing of two figures in the colour of its margin, the lines where it holds and keeps the ceiling. */
  let {
    answer,
    xAxis,
    yAxis,
    pointed = $bindable(),
  }: {
    answer: Schemas["DesignMap"];
    xAxis: MapAxis | undefined;
    yAxis: MapAxis | undefined;
    pointed: Crossing | null;
  } = $props();
  const HEIGHT = 400;
  const LEFT = 62;
  const RIGHT = 16;
  const TOP = 14;
  const BOTTOM = 44;
  let width = $state(640);
  const rows = $derived(answer.axes[0]?.values ?? []);
  const columns = $derived(answer.axes[1]?.values ?? []);
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
  const holdsLine = $derived(zeroLine(answer.spare_k, x, y));
  const surelyLine = $derived(zeroLine(lessBand(answer), x, y));
  const soundLine = $derived(zeroLine(answer.spare_db, x, y));
  const here = $derived.by(() => {
    const [row, column] = [position(rows, answer.axes[0]?.now), position(columns, answer.axes[1]?.now)];
    return row === null || column === null ? null : { x: x(column), y: y(row) };
  });
  const every = (values: number[]) => Math.max(1, Math.ceil(values.length / 7));
</script>

<div bind:clientWidth={width}>
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
          fill={marginColour(value)}
          fill-opacity={(answer.spare_k[r]?.[c] ?? -1) >= 0 ? 1 : 0.45}
          role="presentation"
          onpointerenter={() => (pointed = { row: r, column: c })}
        />
      {/each}
    {/each}
    {#each columns as value, c (c)}
      {#if c % every(columns) === 0}<text x={x(c)} y={HEIGHT - BOTTOM + 17} text-anchor="middle" class="num"
          >{shownOn(xAxis, value)}</text
        >{/if}
    {/each}
    {#each rows as value, r (r)}
      {#if r % every(rows) === 0}<text x={LEFT - 6} y={y(r) + 4} text-anchor="end" class="num"
          >{shownOn(yAxis, value)}</text
        >{/if}
    {/each}
    <text x={(LEFT + width - RIGHT) / 2} y={HEIGHT - 6} text-anchor="middle">{xAxis?.name}</text>
    <path d={holdsLine} class="line" stroke="var(--panel)" stroke-width="5.500" />
    <path d={holdsLine} class="line" stroke="var(--ink)" stroke-width="2.600" data-contour="holds" />
    <path d={surelyLine} class="line" stroke="var(--panel)" stroke-width="4" />
    <path
      d={surelyLine}
      class="line"
      stroke="var(--ink)"
      stroke-width="1.800"
      stroke-dasharray="1.500 3.500"
      data-contour="surely"
    />
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
</div>

<style>
  text {
    font-size: 12px;
    fill: var(--soft);
  }
  .line {
    fill: none;
    pointer-events: none;
  }
</style>
