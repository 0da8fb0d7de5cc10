<script lang="ts">
  import type { Studies } from "$lib/state/study.svelte";
  import { labelOf, type Brush } from "./filter";
  import { outline } from "./shapes";

  /** Options of each axis to keep in view or strike out. */
  let {
    studies,
    names,
    shapeAxis,
    brush = $bindable(),
  }: { studies: Studies; names: Record<string, string>; shapeAxis: string | undefined; brush: Brush } = $props();
  const MOST_OPTIONS = 8;

  function toggle(address: string, option: number) {
    const off = brush.options[address] ?? [];
    const next = off.includes(option) ? off.filter((o) => o !== option) : [...off, option];
    brush = { ...brush, options: { ...brush.options, [address]: next } };
  }
</script>

<div class="keep">
  {#each studies.axes.filter((a) => a.options.length > 1 && a.options.length <= MOST_OPTIONS) as axis, i (axis.address)}
    <span class="soft">{names[axis.address] ?? axis.address}</span>
    <span class="flex flex-wrap gap-1">
      {#each axis.options as option, number (number)}
        <button
          class="chip"
          aria-pressed={!(brush.options[axis.address] ?? []).includes(number)}
          onclick={() => toggle(axis.address, number)}
          >{#if axis.address === shapeAxis}<svg width="14" height="14" aria-hidden="true"
              ><path d={outline(number, 7, 7, 4.2)} /></svg
            >{/if}{option.label ?? labelOf(studies, studies.axes.indexOf(axis), number)}<span class="sr-only"
            >, row {i + 1}</span
          ></button
        >
      {/each}
    </span>
  {/each}
</div>

<style>
  .keep {
    display: grid;
    grid-template-columns: 170px 1fr;
    gap: 4px 10px;
    font-size: 13px;
  }
  .chip {
    border: 1px solid var(--line);
    border-radius: 6px;
    padding: 0 7px;
    color: var(--soft);
    text-decoration: line-through;
    cursor: pointer;
  }
  .chip svg {
    display: inline-block;
    margin: -2px 4px 0 -2px;
    fill: none;
    stroke: currentColor;
    stroke-width: 1.5;
  }
  .chip[aria-pressed="true"] {
    color: var(--ink);
    text-decoration: none;
    background: var(--sunk);
  }
</style>
