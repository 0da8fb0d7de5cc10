<script lang="ts">
  import type { Part } from "$lib/document/build";
  import { onPress } from "$lib/ui/press";

  /** A fan in the drawing of the housing: chosen by a click, opened by a key. */
  let {
    fan,
    x,
    y,
    size,
    selected,
    press,
  }: {
    fan: Part;
    x: number;
    y: number;
    size: number;
    selected: boolean;
    press: (part: string, twice: boolean) => void;
  } = $props();
</script>

<g
  role="button"
  tabindex="-1"
  aria-label="{fan.name || fan.id}, fan"
  onclick={() => press(fan.id, false)}
  onkeydown={onPress(() => press(fan.id, true))}
  transform="translate({x} {y})"
  class:on={selected}
>
  <circle r={size / 2 - 2} fill="var(--panel)" class="line" />
  {#each [0, 120, 240] as turn (turn)}
    <path
      d="M0 0C{size * 0.12} {-size * 0.1} {size * 0.16} {-size * 0.28} {size * 0.06} {-size * 0.4}"
      transform="rotate({turn})"
      class="line"
      fill="none"
    />
  {/each}
</g>

<style>
  g {
    cursor: pointer;
  }
  g:focus-visible {
    outline: none;
  }
  g:focus-visible circle {
    stroke: var(--accent);
    stroke-width: 3.5;
  }
  .line {
    stroke: var(--ink);
    stroke-width: 1.7;
  }
  .on .line {
    stroke: var(--accent);
    stroke-width: 2.6;
  }
</style>
