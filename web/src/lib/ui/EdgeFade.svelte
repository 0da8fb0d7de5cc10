<script lang="ts">
  import type { Snippet } from "svelte";

  /** A row that scrolls sideways, and says how much of it is out of view on either side. */
  let {
    middles,
    children,
    width = $bindable(),
    testid,
  }: {
    /** where each thing of the row has its middle, px */
    middles: number[];
    children: Snippet;
    width: number;
    testid: string;
  } = $props();
  let box: HTMLElement | undefined = $state();
  let left = $state(0);
  const before = $derived(middles.filter((x) => x < left).length);
  const after = $derived(middles.filter((x) => x > left + width).length);
  const by = (share: number) => box?.scrollBy({ left: share * width, behavior: "smooth" });
</script>

<div class="frame">
  <div
    class="scroller"
    bind:this={box}
    bind:clientWidth={width}
    onscroll={(event) => (left = event.currentTarget.scrollLeft)}
    data-testid={testid}
  >
    {@render children()}
  </div>
  {#if before}
    <span class="fade left" aria-hidden="true"></span>
    <button class="count left" tabindex="-1" onclick={() => by(-0.7)} aria-label="{before} more to the left"
      >‹ {before}</button
    >
  {/if}
  {#if after}
    <span class="fade right" aria-hidden="true"></span>
    <button class="count right" tabindex="-1" onclick={() => by(0.7)} aria-label="{after} more to the right"
      >{after} ›</button
    >
  {/if}
</div>

<style>
  .frame {
    position: relative;
  }
  .scroller {
    overflow-x: auto;
    margin-top: 4px;
  }
  .fade {
    position: absolute;
    top: 0;
    bottom: 12px;
    width: 44px;
    pointer-events: none;
  }
  .fade.left {
    left: 0;
    background: linear-gradient(to left, transparent, var(--ground));
  }
  .fade.right {
    right: 0;
    background: linear-gradient(to right, transparent, var(--ground));
  }
  .count {
    position: absolute;
    top: 6px;
    min-width: 30px;
    padding: 2px 8px;
    border-radius: 12px;
    background: var(--ink);
    color: var(--ground);
    font-weight: 650;
    font-size: 13px;
    cursor: pointer;
  }
  .count.left {
    left: 4px;
  }
  .count.right {
    right: 4px;
  }
</style>
