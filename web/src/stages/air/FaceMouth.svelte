<script lang="ts">
  import type { Rect } from "$lib/drawing/faces";
  import { short } from "$lib/drawing/words";
  import { onPress } from "$lib/ui/press";
  import { fixed } from "$lib/units/format";
  import FanMark from "./FanMark.svelte";
  import { footOf, placed } from "./labels";
  import type { Mouth } from "./model";

  /** One mouth on its face: fans, radiator or openings, and the arrow of what passes it. */
  let {
    mouth,
    rect,
    edge,
    name,
    most,
    tint,
    selected,
    press,
  }: {
    mouth: Mouth;
    rect: Rect;
    edge: Rect;
    name: string;
    most: number;
    tint: (celsius: number) => string;
    selected: string | null;
    press: (part: string, twice: boolean) => void;
  } = $props();
  const fans = $derived(mouth.parts.filter((part) => part.kind === "fan"));
  const radiator = $derived(mouth.parts.find((part) => part.kind === "radiator"));
  const opening = $derived(mouth.parts.find((part) => ["opening", "filter", "gap"].includes(part.kind)));
  /** Room between a face's own line and what stands at its foot. */
  const foot = $derived(footOf(mouth.face, rect));
  const room = $derived(rect.h - foot);
  const size = $derived(Math.max(Math.min((rect.w - 6) / Math.max(fans.length, 1), room, 74), 14));
  const middle = $derived(rect.y + 22 + room / 2);
  const dotRows = $derived.by(() => {
    const count = Math.max(Math.min(Math.floor(room / 13), 3), 1);
    return Array.from({ length: count }, (_, row) => row - (count - 1) / 2);
  });

  const at = $derived(placed(mouth, rect, edge, most));
</script>

{#if radiator}
  <g
    role="button"
    tabindex="-1"
    aria-label="{radiator.name || radiator.id}, radiator"
    onclick={() => press(radiator.id, false)}
    onkeydown={onPress(() => press(radiator.id, true))}
  >
    <rect
      x={rect.x + 1}
      y={middle - size / 2 - 4}
      width={rect.w - 2}
      height={size + 8}
      rx="4"
      fill="var(--sunk)"
      stroke={selected === radiator.id ? "var(--accent)" : "var(--soft)"}
      stroke-width={selected === radiator.id ? 3 : 1}
    />
  </g>
{/if}
{#if !fans.length && !radiator}
  {#if opening}
    <g
      role="button"
      tabindex="-1"
      aria-label="{opening.name || opening.id}, {opening.kind}"
      onclick={() => press(opening.id, false)}
      onkeydown={onPress(() => press(opening.id, true))}
    >
      <rect x={rect.x} y={middle - 18} width={rect.w} height="36" fill="transparent" />
      {#each Array.from({ length: Math.max(Math.floor(rect.w / 15), 2) }, (_, n) => n) as column (column)}
        {#each dotRows as row (row)}
          <circle
            cx={rect.x + 9 + column * 14}
            cy={middle + row * 13}
            r="3.4"
            fill={selected === opening.id ? "var(--accent)" : "var(--hatch)"}
          />
        {/each}
      {/each}
    </g>
  {/if}
{/if}
{#each fans as fan, i (fan.id)}
  <FanMark
    {fan}
    x={rect.x + (rect.w * (i + 0.5)) / fans.length}
    y={middle}
    {size}
    selected={selected === fan.id}
    {press}
  />
{/each}
{#if mouth.face !== "front" || rect.h > 130}
  <text
    x={rect.x + rect.w / 2}
    y={rect.y + rect.h - (mouth.face === "front" ? foot - 28 : 7)}
    text-anchor="middle"
    class="name">{short(name, rect.w)}</text
  >{/if}
<path d="M{at.x} {at.from}L{at.x} {at.to}" stroke={tint(mouth.celsius)} stroke-width="9" fill="none" />
<path
  d="M{at.x - 11} {at.to}L{at.x} {at.to + (at.to < at.from ? -10 : 10)}L{at.x + 11} {at.to}Z"
  fill={tint(mouth.celsius)}
/>
<text x={at.textX} y={at.y} text-anchor={at.anchor} class="num flow"
  >{fixed(mouth.flow, 0)} m³/h {mouth.into ? "in" : "out"}</text
>
<text x={at.textX} y={at.y + 14} text-anchor={at.anchor} class="num small">{fixed(mouth.celsius)} °C</text>

<style>
  g[role="button"] {
    cursor: pointer;
  }
  g[role="button"]:focus-visible {
    outline: none;
  }
  g[role="button"]:focus-visible rect {
    stroke: var(--accent);
    stroke-width: 3.5;
  }
  text {
    fill: var(--ink);
    font-size: 12px;
    user-select: none;
  }
  .small {
    fill: var(--soft);
    font-size: 12px;
  }
  .name {
    font-size: 11.5px;
    fill: var(--soft);
  }
  .flow {
    font-weight: 650;
  }
</style>
