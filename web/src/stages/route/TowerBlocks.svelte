<script lang="ts">
  import type { WorkloadResult } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { css, heat, textOn } from "$lib/drawing/colour";
  import type { Tower } from "$lib/drawing/terraces";
  import { fits, short } from "$lib/drawing/words";
  import { fixed, kelvins, watts } from "$lib/units/format";

  /** One part as a tower: a block per hop up to its limit, its band, and where a change in view would end. */
  let { build, result, tower, ground }: { build: BuildState; result: WorkloadResult; tower: Tower; ground: number } =
    $props();
  const won = $derived(build.preview?.[tower.place.address]);
  /** Where a tower's top would be with so many kelvins won. */
  const ahead = (won: number) => {
    const rise = Math.max(tower.place.temperature_c - result.room_c, 1e-6);
    return tower.top + ((ground - tower.top) * won) / rise;
  };
</script>

{#if tower.limitY !== null}
  <rect
    x={tower.x}
    y={tower.limitY}
    width={tower.width}
    height={Math.max(tower.top - tower.limitY, 0)}
    fill="url(#hatch)"
  />
  <line
    x1={tower.x}
    x2={tower.x + tower.width}
    y1={tower.limitY}
    y2={tower.limitY}
    stroke="var(--ink)"
    stroke-width="2"
  />
  <text x={tower.x + tower.width - 3} y={tower.limitY - 5} class="tick" text-anchor="end"
    >limit {fixed(tower.place.limit_c, 0)}</text
  >
{/if}
<g data-tower={tower.place.address} data-top={tower.place.temperature_c.toFixed(3)}>
  {#each tower.blocks as block (block.address)}
    {@const colour = heat(block.share)}
    <rect
      x={tower.x}
      y={block.y}
      width={tower.width}
      height={Math.max(block.height - 1, 1)}
      rx="3"
      fill={css(colour)}
      class="hop"
      role="button"
      tabindex="0"
      aria-label="{block.name} {kelvins(block.drop)}"
      onclick={() => ((build.sheet = block.address), (build.selected = tower.place.address))}
      onkeydown={(event) => event.key === "Enter" && (build.sheet = block.address)}
    >
      <title>{block.name}: {kelvins(block.drop, 2)} at {watts(block.watts)}</title>
    </rect>
    {#if block.height > 14}
      {#if fits(`${block.name} ${kelvins(block.drop)}`, tower.width - 14)}
        <text x={tower.x + 7} y={block.y + Math.min(14, block.height / 2 + 4.5)} fill={textOn(colour)} class="block"
          >{block.name}</text
        >
        <text
          x={tower.x + tower.width - 7}
          y={block.y + Math.min(14, block.height / 2 + 4.5)}
          fill={textOn(colour)}
          class="num block"
          text-anchor="end">{kelvins(block.drop)}</text
        >
      {:else}
        <text x={tower.x + 7} y={block.y + Math.min(14, block.height / 2 + 4.5)} fill={textOn(colour)} class="num block"
          >{kelvins(block.drop)}</text
        >
        {#if block.height > 30}<text x={tower.x + 7} y={block.y + 28} fill={textOn(colour)} class="block"
            >{short(block.name, tower.width - 14, 7.2)}</text
          >{/if}
      {/if}
    {/if}
  {/each}
  {#if won !== undefined && Math.abs(won) >= 0.05}
    {@const at = ahead(won)}
    <path
      d="M{tower.x} {at}h{tower.width}"
      stroke={won > 0 ? "var(--holds)" : "var(--too-hot)"}
      stroke-width="3"
      stroke-dasharray="6 3"
      data-preview={tower.place.address}
      class="whisker"
    />
  {/if}
  {#if tower.bandTop !== null && tower.bandBottom !== null}
    {@const middle = tower.width > 150 ? tower.x + tower.width / 2 : tower.x + tower.width - 13}
    {@const whisker = `M${middle - 5} ${tower.bandTop}h10M${middle} ${tower.bandTop}V${tower.bandBottom}M${middle - 5} ${tower.bandBottom}h10`}
    <path
      class="whisker"
      class:pale={!build.bandsFresh}
      d={whisker}
      stroke="var(--ground)"
      stroke-width="5"
      opacity="0.75"
    />
    <path class="whisker" class:pale={!build.bandsFresh} d={whisker} stroke="var(--ink)" stroke-width="1.700" />
  {/if}
</g>

<style>
  .tick {
    font-size: 12.5px;
    fill: var(--soft);
  }
  .block {
    font-size: 13.5px;
    font-weight: 550;
    pointer-events: none;
  }
  .hop {
    cursor: pointer;
  }
  .hop:hover,
  .hop:focus-visible {
    stroke: var(--accent);
    stroke-width: 2;
  }
  /* drawn over the blocks, never in the way of a click on them */
  .whisker {
    pointer-events: none;
  }
  .pale {
    opacity: 0.3;
  }
</style>
