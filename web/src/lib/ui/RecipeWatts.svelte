<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { fixed } from "$lib/units/format";
  import NumberField from "./NumberField.svelte";

  /** The three watt figures of a recipe, and what its first size holds of each. */
  let {
    asks,
    figures,
    onchange,
  }: {
    asks: Schemas["RecipeOut"]["asks"];
    /** undefined where it is left out: what the recipe starts at counts */
    figures: (number | undefined)[];
    onchange: (index: number, watts: number | undefined) => void;
  } = $props();
  const whole = (watts: number) => fixed(watts, watts < 10 && watts % 1 ? 1 : 0);
  const beyond = $derived(
    asks.flatMap((ask, i) => ((figures[i] ?? 0) > ask.holds_w ? [`${ask.label} to ${whole(ask.holds_w)} W`] : [])),
  );
</script>

{#each asks as ask, i (i)}
  <span title="its first size holds {whole(ask.least_w)} to {whole(ask.holds_w)} W">
    <NumberField
      label={ask.label}
      unit="W"
      value={figures[i]}
      low={ask.least_w}
      high={600}
      placeholder={whole(ask.start_w)}
      onchange={(watts) => onchange(i, watts)}
      onclear={() => onchange(i, undefined)}
    />
  </span>
{/each}
{#if beyond.length}
  <p class="soft w-full text-sm" role="status">
    Its first size holds {beyond.join(", ")}. More starts too hot: look for a larger size with Size it.
  </p>
{/if}
