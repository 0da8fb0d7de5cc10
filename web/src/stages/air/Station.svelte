<script lang="ts">
  import type { Part } from "$lib/document/build";
  import type { Rect } from "$lib/drawing/faces";
  import { short } from "$lib/drawing/words";
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

  function onkeydown(event: KeyboardEvent, part: string) {
    if (event.key !== "Enter" && event.key !== " ") return;
    event.preventDefault();
    press(part, true);
  }
</script>

<rect x={rect.x} y={rect.y} width={rect.w} height={rect.h} rx="6" class="station" />
<text x={rect.x + 7} y={rect.y + 15} class="name">{short(`beside it: ${name}`, rect.w - 12)}</text>
{#if size > 12}
  {#each fans as fan, i (fan.id)}
    <g
      role="button"
      tabindex="-1"
      aria-label="{fan.name || fan.id}, fan"
      transform="translate({rect.x + 8 + ((rect.w - 16) * (i + 0.5)) / fans.length} {middle})"
      class:on={selected === fan.id}
      onclick={() => press(fan.id, false)}
      onkeydown={(event) => onkeydown(event, fan.id)}
    >
      <circle r={size / 2 - 2} />
      {#each [0, 120, 240] as turn (turn)}
        <path
          d="M0 0C{size * 0.12} {-size * 0.1} {size * 0.16} {-size * 0.28} {size * 0.06} {-size * 0.4}"
          transform="rotate({turn})"
        />
      {/each}
    </g>
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
  g {
    cursor: pointer;
  }
  circle,
  path {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.5;
  }
  circle {
    fill: var(--panel);
  }
  .on circle,
  .on path {
    stroke: var(--accent);
    stroke-width: 2.4;
  }
  g:focus-visible {
    outline: none;
  }
  g:focus-visible circle {
    stroke: var(--accent);
    stroke-width: 3.5;
  }
</style>
