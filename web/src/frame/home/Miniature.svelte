<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { css, heat } from "$lib/drawing/colour";
  import { miniature } from "$lib/drawing/miniature";

  /** The terraces of a build in its tightest workload, the size of a thumb. */
  let { towers, width, height }: { towers: Schemas["CardTower"][]; width: number; height: number } = $props();
  const drawn = $derived(miniature(towers, width, height));
</script>

<svg {width} {height} viewBox="0 0 {width} {height}" aria-hidden="true">
  {#each drawn.blocks as block, i (i)}
    <rect
      x={block.x}
      y={block.y}
      width={block.width}
      height={Math.max(block.height, 0.5)}
      fill={css(heat(block.share))}
    />
  {/each}
  {#each drawn.limits as limit, i (i)}
    <line class="limit" x1={limit.x} x2={limit.x + limit.width} y1={limit.y} y2={limit.y} />
  {/each}
  <line class="ground" x1="0" x2={width} y1={height - 0.75} y2={height - 0.75} />
</svg>

<style>
  .limit,
  .ground {
    stroke: var(--ink);
    stroke-width: 1.5;
  }
  .ground {
    stroke: var(--soft);
  }
</style>
