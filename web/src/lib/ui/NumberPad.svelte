<script lang="ts">
  /** Digits for one thumb: what is typed goes to whoever shows it. */
  let {
    value,
    next,
    onvalue,
    onnext,
    onskip,
  }: {
    value: string;
    /** what the large key leads to */
    next: string;
    onvalue: (value: string) => void;
    onnext: () => void;
    onskip: () => void;
  } = $props();
  const ROWS = ["789", "456", "123"];

  function press(key: string) {
    if (key === "." && value.includes(".")) return;
    if (key === "−") return onvalue(value.startsWith("-") ? value.slice(1) : `-${value}`);
    onvalue(value + key);
  }
</script>

<div class="pad" role="group" aria-label="Number pad">
  {#each ROWS as row, r (row)}
    {#each row as key (key)}<button class="key num" onclick={() => press(key)}>{key}</button>{/each}
    {#if r === 0}<button class="key plain" aria-label="Delete a digit" onclick={() => onvalue(value.slice(0, -1))}
        >⌫</button
      >
    {:else if r === 1}<button class="key plain" onclick={onskip}>skip</button>
    {:else}<button class="key next" onclick={onnext}><strong>{next}</strong>next field</button>{/if}
  {/each}
  <button class="key plain num" aria-label="Minus" onclick={() => press("−")}>−</button>
  <button class="key num" onclick={() => press("0")}>0</button>
  <button class="key num" aria-label="Decimal point" onclick={() => press(".")}>.</button>
</div>

<style>
  .pad {
    display: grid;
    grid-template-columns: repeat(4, 1fr);
    gap: 5px;
    padding: 6px;
    background: var(--sunk);
    border-radius: 10px;
  }
  .key {
    min-height: 48px;
    border-radius: 8px;
    background: var(--panel);
    font-size: 22px;
    cursor: pointer;
  }
  .key.plain {
    background: transparent;
    font-size: 17px;
    font-weight: 600;
  }
  .key.next {
    grid-row: span 2;
    display: grid;
    align-content: center;
    padding: 4px;
    background: var(--accent-fill);
    color: var(--accent-ink);
    font-size: 13px;
    overflow: hidden;
  }
  .key.next strong {
    font-size: 14px;
    hyphens: auto;
  }
</style>
