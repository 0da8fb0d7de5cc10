<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { fixed, kelvins, watts } from "$lib/units/format";

  /** What a hop costs and what it is computed with: law, range, source; life and cautions of a material. */
  let { hop, material }: { hop: Schemas["HopDrop"]; material: Schemas["ClassOut"] | undefined } = $props();
</script>

<p>
  <span class="num">{kelvins(hop.drop_k, 2)}</span> at <span class="num">{watts(hop.watts)}</span>,
  <span class="num">{fixed(100 * hop.share, 0)} %</span> of its rise
</p>
{#if material?.life_years}
  <p class="text-sm">Lasts {material.life_years[0]} to {material.life_years[1]} years.</p>
{/if}
{#each material?.cautions ?? [] as caution, i (i)}<p class="caution text-sm">Mind: {caution}.</p>{/each}
{#if hop.law}
  <details class="mb-2">
    <summary class="soft">Law, range and source</summary>
    <p class="text-sm">
      {hop.law.name}. Holds for {hop.law.valid}{#if !hop.law.inside}: <span class="fault"
          >used outside that range here</span
        >{/if}. <span class="soft">{hop.law.source}</span>
    </p>
  </details>
{/if}

<style>
  summary {
    cursor: pointer;
  }
  .caution {
    border-left: 3px solid var(--tight);
    padding-left: 8px;
    margin: 2px 0;
  }
</style>
