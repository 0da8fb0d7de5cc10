<script lang="ts">
  import type { WorkloadResult } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Tower } from "$lib/drawing/terraces";
  import { fixed } from "$lib/units/format";

  /** What is read off a tower, drawn above every block: its limit, what passes it, its band, where a change would end. */
  let {
    build,
    result,
    tower,
    ground,
    before,
  }: { build: BuildState; result: WorkloadResult; tower: Tower; ground: number; before: number | undefined } = $props();
  const won = $derived(build.preview?.[tower.place.address]);
  const perKelvin = $derived((ground - tower.top) / Math.max(tower.place.temperature_c - result.room_c, 1e-6));
  const at = (celsius: number) => ground - (celsius - result.room_c) * perKelvin;
  const GHOST_LEAST_K = 0.3;
  const middle = $derived(tower.width > 150 ? tower.x + tower.width / 2 : tower.x + tower.width - 13);
  /** the label stands where the band does not */
  const left = $derived(tower.width <= 150 && tower.bandTop !== null);
  const whisker = $derived(
    tower.bandTop === null || tower.bandBottom === null
      ? ""
      : `M${middle - 5} ${tower.bandTop}h10M${middle} ${tower.bandTop}V${tower.bandBottom}M${middle - 5} ${tower.bandBottom}h10`,
  );
</script>

<g class="marks">
  {#if tower.overshoot > 0}
    <rect
      x={tower.x}
      y={tower.top}
      width={tower.width}
      height={tower.overshoot}
      fill="url(#over)"
      data-over={tower.place.address}
    />
  {/if}
  {#if before !== undefined && Math.abs(before - tower.place.temperature_c) >= GHOST_LEAST_K}
    <path class="ghost" d="M{tower.x - 1} {at(before)}h{tower.width + 2}" data-ghost={tower.place.address}>
      <title>last revision: {fixed(before)} °C</title>
    </path>
  {/if}
  {#if tower.limitY !== null}
    <path class="limit-edge" d="M{tower.x} {tower.limitY}h{tower.width}" />
    <path class="limit" d="M{tower.x} {tower.limitY}h{tower.width}" />
    <text
      x={left ? tower.x + 3 : tower.x + tower.width - 3}
      y={tower.limitY - 5}
      class="tick"
      text-anchor={left ? "start" : "end"}>limit {fixed(tower.place.limit_c, 0)}</text
    >
  {/if}
  {#if won !== undefined && Math.abs(won) >= 0.05}
    <path
      d="M{tower.x} {at(tower.place.temperature_c - won)}h{tower.width}"
      stroke={won > 0 ? "var(--holds)" : "var(--too-hot)"}
      stroke-width="3"
      stroke-dasharray="6 3"
      data-preview={tower.place.address}
    />
  {/if}
  {#if whisker}
    <path class="edge" class:pale={!build.bandsFresh} d={whisker} />
    <path class="whisker" class:pale={!build.bandsFresh} d={whisker} />
  {/if}
</g>

<style>
  /* drawn over the blocks, never in the way of a click on them */
  .marks {
    pointer-events: none;
  }
  .tick {
    font-size: 12.5px;
    fill: var(--ink);
    stroke: var(--ground);
    stroke-width: 3.5;
    paint-order: stroke;
  }
  .limit {
    stroke: var(--ink);
    stroke-width: 2;
  }
  .limit-edge {
    stroke: var(--ground);
    stroke-width: 4;
    opacity: 0.75;
  }
  .ghost {
    stroke: var(--soft);
    stroke-width: 1.6;
    stroke-dasharray: 2 3;
  }
  .whisker,
  .edge {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.7;
  }
  .edge {
    stroke: var(--ground);
    stroke-width: 5;
    opacity: 0.75;
  }
  .pale {
    opacity: 0.3;
  }
</style>
