<script lang="ts">
  import type { Part } from "$lib/document/build";
  import type { Rect } from "$lib/drawing/faces";
  import { short } from "$lib/drawing/words";
  import FanMark from "./FanMark.svelte";
  import { fixed } from "$lib/units/format";

  /** What cools beside the housing, drawn outside it: its fans, what passes and how warm it gets. */
  let {
    name,
    fans,
    rect,
    flow,
    from,
    to,
    selected,
    press,
  }: {
    name: string;
    fans: Part[];
    rect: Rect;
    flow: number;
    from: number;
    to: number;
    selected: string | null;
    press: (part: string, twice: boolean) => void;
  } = $props();
  const size = $derived(Math.min((rect.w - 16) / Math.max(fans.length, 1), rect.h - 56, 40));
  const middle = $derived(rect.y + 22 + Math.max(rect.h - 58, 0) / 2);
</script>

<rect x={rect.x} y={rect.y} width={rect.w} height={rect.h} rx="6" class="station" />
<text x={rect.x + 7} y={rect.y + 15} class="name">{short(`beside it: ${name}`, rect.w - 12)}</text>
{#if size > 12}
  {#each fans as fan, i (fan.id)}
    <FanMark
      {fan}
      x={rect.x + 8 + ((rect.w - 16) * (i + 0.5)) / fans.length}
      y={middle}
      {size}
      selected={selected === fan.id}
      {press}
    />
  {/each}
{/if}
<text x={rect.x + rect.w / 2} y={rect.y + rect.h - 22} text-anchor="middle" class="num strong"
  >{fixed(flow, 0)} m³/h</text
>
<text x={rect.x + rect.w / 2} y={rect.y + rect.h - 8} text-anchor="middle" class="num"
  >{fixed(from)} → {fixed(to)} °C</text
>

<style>
  .station {
    fill: none;
    stroke: var(--soft);
    stroke-width: 1.5;
    stroke-dasharray: 2 4;
  }
  text {
    fill: var(--ink);
    font-size: 12px;
    user-select: none;
  }
  .name {
    fill: var(--soft);
    font-weight: 650;
  }
  .strong {
    font-weight: 650;
  }
</style>
