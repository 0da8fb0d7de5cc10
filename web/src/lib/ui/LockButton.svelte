<script lang="ts">
  /** Holds a part or a figure: sizing leaves alone what is locked. */
  let {
    locked,
    name,
    disabled = false,
    onclick,
  }: { locked: boolean; name: string; disabled?: boolean; onclick: () => void } = $props();
</script>

<button
  class="lock"
  aria-pressed={locked}
  title={locked ? "Locked: sizing leaves it alone" : "Lock it: sizing leaves it alone"}
  {disabled}
  {onclick}
>
  <span class="sr-only">Lock {name}</span>
  <svg width="14" height="16" viewBox="0 0 14 16" aria-hidden="true">
    <path d={locked ? "M4 7V4.500a3 3 0 0 1 6 0V7" : "M4 7V4.500a3 3 0 0 1 5.800-1"} />
    <rect x="2" y="7" width="10" height="7.500" rx="1.500" class:filled={locked} />
  </svg>
</button>

<style>
  .lock {
    display: inline-grid;
    place-items: center;
    min-width: 26px;
    min-height: 26px;
    border-radius: 6px;
    color: var(--soft);
    cursor: pointer;
  }
  .lock[aria-pressed="true"] {
    color: var(--accent-text);
  }
  .lock:hover:not(:disabled) {
    background: var(--sunk);
  }
  path,
  rect {
    fill: none;
    stroke: currentColor;
    stroke-width: 1.6;
  }
  .filled {
    fill: currentColor;
  }
</style>
