<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { css, heat, textOn } from "$lib/drawing/colour";
  import type { Block, Tower } from "$lib/drawing/terraces";
  import { fits, short } from "$lib/drawing/words";
  import { kelvins, watts } from "$lib/units/format";

  /** One part as a tower: a block per hop, small ones together until they are opened. */
  let {
    build,
    tower,
    stop,
    open,
    onfocus,
  }: {
    build: BuildState;
    tower: Tower;
    /** which block is the tab stop; none where another tower has it */
    stop: number | null;
    open: () => void;
    onfocus: (block: number) => void;
  } = $props();

  /** what a label may take: narrow towers have their band at the right */
  const room = $derived(tower.width - (tower.width <= 150 && tower.bandTop !== null ? 36 : 20));

  function choose(block: Block) {
    build.selected = tower.place.address;
    if (block.merged.length) open();
    else build.sheet = block.address;
  }
</script>

{#if tower.limitY !== null}
  <rect
    x={tower.x}
    y={tower.limitY}
    width={tower.width}
    height={Math.max(tower.top - tower.limitY, 0)}
    fill="url(#hatch)"
  />
{/if}
<g data-tower={tower.place.address} data-top={tower.place.temperature_c.toFixed(3)}>
  {#each tower.blocks as block, i (block.address)}
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
      tabindex={i === stop ? 0 : -1}
      data-block={i}
      aria-label="{block.name} {kelvins(block.drop)}"
      onclick={() => choose(block)}
      onfocus={() => onfocus(i)}
      onkeydown={(event) => event.key === "Enter" && choose(block)}
    >
      <title
        >{block.merged.length
          ? block.merged.map((one) => `${one.name}: ${kelvins(one.drop, 2)}`).join("\n")
          : `${block.name}: ${kelvins(block.drop, 2)} at ${watts(block.watts)}`}</title
      >
    </rect>
    {#if block.height > 14}
      {@const baseline = block.y + Math.min(14, block.height / 2 + 4.5)}
      {#if fits(`${block.name}  ${kelvins(block.drop)}`, room, 7.4)}
        <text x={tower.x + 7} y={baseline} fill={textOn(colour)} class="block">{block.name}</text>
        <text x={tower.x + room + 11} y={baseline} fill={textOn(colour)} class="num block" text-anchor="end"
          >{kelvins(block.drop)}</text
        >
      {:else}
        <text x={tower.x + 7} y={baseline} fill={textOn(colour)} class="num block">{kelvins(block.drop)}</text>
        {#if block.height > 30}<text x={tower.x + 7} y={block.y + 28} fill={textOn(colour)} class="block"
            >{short(block.name, room + 6, 7.2)}</text
          >{/if}
      {/if}
    {/if}
  {/each}
</g>

<style>
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
</style>
