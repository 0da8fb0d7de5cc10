<script lang="ts">
  import { figureOf } from "$lib/document/addresses";
  import { valueOf, type Part } from "$lib/document/build";
  import { fixed } from "$lib/units/format";

  /** A block cut through, to scale, where its sizes are stated. */
  let { part }: { part: Part } = $props();
  const W = 336;
  const size = (field: string) => valueOf(figureOf(part, field));
  const width = $derived(size("width_mm"));
  const thickness = $derived(size("thickness_mm"));
  const scale = $derived(Math.min(220 / (width ?? 1), 70 / (thickness ?? 1)));
</script>

{#if width && thickness}
  <figure>
    <svg width={W} height="104" role="img" aria-label="Block to scale: {fixed(width, 0)} by {fixed(thickness)} mm">
      <rect
        x={(W - width * scale) / 2}
        y={78 - thickness * scale}
        width={width * scale}
        height={thickness * scale}
        fill="var(--ink)"
      />
      <text x={W / 2} y="97" text-anchor="middle" class="num"
        >{fixed(width, 0)} × {fixed(size("length_mm"), 0)} mm, {fixed(thickness)} mm thick</text
      >
    </svg>
  </figure>
{/if}

<style>
  figure {
    background: var(--sunk);
    border-radius: 6px;
    margin-bottom: 8px;
  }
  text {
    font-size: 12px;
    fill: var(--soft);
  }
</style>
