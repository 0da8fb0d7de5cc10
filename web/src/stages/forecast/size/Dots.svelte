<script lang="ts">
  import type { Result, Studies } from "$lib/state/study.svelte";
  import { fixed, level } from "$lib/units/format";
  import { SHAPES } from "./shapes";
  import { wordsOf, type Brush, type Figure } from "./filter";
  import { known, type Shown } from "./tradeoffs";
  import DotPlot from "./DotPlot.svelte";
  import KeepOptions from "./KeepOptions.svelte";

  /** Candidates as dots: one figure over another, size is height, shape is kind; drag to keep a rectangle. */
  let {
    studies,
    result,
    shown,
    names,
    figures = $bindable(),
    front,
    best,
    brush = $bindable(),
  }: {
    studies: Studies;
    result: Result;
    shown: number[];
    names: Record<string, string>;
    figures: Shown;
    front: number[];
    best: number[];
    brush: Brush;
  } = $props();
  let kind = $state("");
  let pointed = $state<number | null>(null);

  const shapeAxis = $derived.by(() => {
    const fit = studies.axes.filter((axis) => axis.options.length > 1 && axis.options.length <= SHAPES);
    return (fit.find((axis) => axis.address === kind) ?? fit.find((a) => a.address.endsWith("class")) ?? fit[0])
      ?.address;
  });
  const shapeAt = $derived(studies.axes.findIndex((axis) => axis.address === shapeAxis));
</script>

{#snippet options()}
  {#each known(result) as [figure, name, unit] (figure)}<option value={figure}>{name}{unit ? `, ${unit}` : ""}</option
    >{/each}
{/snippet}

<section class="panel" aria-label="Candidates as dots">
  <p class="flex flex-wrap items-center gap-2 text-sm">
    <select
      class="field"
      aria-label="Upwards"
      value={figures.y}
      onchange={(e) => (figures = { ...figures, y: e.currentTarget.value as Figure })}
    >
      {@render options()}
    </select>
    over
    <select
      class="field"
      aria-label="Across"
      value={figures.x}
      onchange={(e) => (figures = { ...figures, x: e.currentTarget.value as Figure })}
    >
      {@render options()}
    </select>
    {#if shapeAxis}
      shape is
      <select
        class="field max-w-72"
        aria-label="Shape is"
        value={shapeAxis}
        onchange={(e) => (kind = e.currentTarget.value)}
      >
        {#each studies.axes.filter((a) => a.options.length > 1 && a.options.length <= SHAPES) as axis (axis.address)}
          <option value={axis.address}>{names[axis.address] ?? axis.address}</option>
        {/each}
      </select>
    {/if}
    <span class="soft">size is height</span>
    {#if brush.rectangle}<button class="button" onclick={() => (brush = { ...brush, rectangle: null })}
        >Reset zoom</button
      >{/if}
  </p>
  <DotPlot {studies} {result} {shown} {figures} {front} {best} {shapeAt} bind:brush bind:pointed />
  <p class="soft told text-sm" aria-live="polite">
    {pointed === null
      ? `${shown.length.toLocaleString("en")} in view. Filled ones meet every demand; the line joins what nothing beats in both figures shown, numbered as in the list. Click or Enter looks at one, with Shift puts a second beside it; arrows go from dot to dot, dragging keeps a rectangle.`
      : `${wordsOf(studies, pointed)}: ${fixed(result.columns["margin_k"]?.[pointed])} K, ${level(result.columns["level_dba"]?.[pointed])}, ${fixed(result.columns["height_mm"]?.[pointed], 0)} mm`}
  </p>
  <KeepOptions {studies} {names} {shapeAxis} bind:brush />
</section>

<style>
  .told {
    min-height: 2.6em;
  }
</style>
