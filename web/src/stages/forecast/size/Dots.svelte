<script lang="ts">
  import type { Result, Studies } from "$lib/state/study.svelte";
  import { fixed, level } from "$lib/units/format";
  import { spanOf } from "$lib/drawing/scale";
  import { SHAPES } from "./shapes";
  import { FIGURES, wordsOf, type Brush, type Figure } from "./filter";
  import DotPlot from "./DotPlot.svelte";
  import KeepOptions from "./KeepOptions.svelte";

  /** Candidates as dots: one figure over another, size is height, shape is kind; drag to keep a rectangle. */
  let {
    studies,
    result,
    shown,
    names,
    brush = $bindable(),
  }: { studies: Studies; result: Result; shown: number[]; names: Record<string, string>; brush: Brush } = $props();
  let chosenX = $state<Figure | null>(null);
  let yFigure = $state<Figure>("margin_k");
  let kind = $state("");
  let pointed = $state<number | null>(null);

  const known = $derived(FIGURES.filter(([figure]) => result.columns[figure]?.some((v) => v !== null)));
  /** Sound lies across, or what differs first where every candidate is silent. */
  const xFigure = $derived(
    chosenX ?? known.find(([figure]) => figure !== "margin_k" && differs(figure))?.[0] ?? "level_dba",
  );
  const differs = (figure: Figure) => {
    const [low, high] = spanOf(result.columns[figure] ?? []);
    return high - low > 1.5;
  };
  const shapeAxis = $derived.by(() => {
    const fit = studies.axes.filter((axis) => axis.options.length > 1 && axis.options.length <= SHAPES);
    return (fit.find((axis) => axis.address === kind) ?? fit.find((a) => a.address.endsWith("class")) ?? fit[0])
      ?.address;
  });
  const shapeAt = $derived(studies.axes.findIndex((axis) => axis.address === shapeAxis));
</script>

{#snippet figures()}
  {#each known as [figure, name, unit] (figure)}<option value={figure}>{name}{unit ? `, ${unit}` : ""}</option>{/each}
{/snippet}

<section class="panel" aria-label="Candidates as dots">
  <p class="flex flex-wrap items-center gap-2 text-sm">
    <select class="field" aria-label="Upwards" bind:value={yFigure}>
      {@render figures()}
    </select>
    over
    <select
      class="field"
      aria-label="Across"
      value={xFigure}
      onchange={(e) => (chosenX = e.currentTarget.value as Figure)}
    >
      {@render figures()}
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
  <DotPlot {studies} {result} {shown} {xFigure} {yFigure} {shapeAt} bind:brush bind:pointed />
  <p class="soft told text-sm">
    {pointed === null
      ? `${shown.length.toLocaleString("en")} in view. Filled ones meet every demand, ringed ones are the best trade-offs. Click looks at one, Shift-click puts a second beside it, dragging keeps a rectangle.`
      : `${wordsOf(studies, pointed)}: ${fixed(result.columns["margin_k"]?.[pointed])} K, ${level(result.columns["level_dba"]?.[pointed])}, ${fixed(result.columns["height_mm"]?.[pointed], 0)} mm`}
  </p>
  <KeepOptions {studies} {names} {shapeAxis} bind:brush />
</section>

<style>
  .told {
    min-height: 2.6em;
  }
</style>
