<script lang="ts">
  import type { Origin } from "$lib/document/build";

  /** Where a figure comes from; a guess keeps its mark until somebody replaces it. */
  let { origin }: { origin: Origin | undefined } = $props();
  const words: Record<string, string> = {
    class: "class",
    estimate: "guess",
    rule_of_thumb: "rule",
    measured: "measured",
    datasheet: "datasheet",
    calibrated: "calibrated",
  };
  const guess = $derived(origin === "class" || origin === "estimate" || origin === "rule_of_thumb");
</script>

{#if origin}
  <span class:guess title={guess ? "a guess: replace it by your own figure" : `from: ${words[origin]}`}
    >{words[origin]}</span
  >
{/if}

<style>
  span {
    font-size: 12px;
    color: var(--soft);
    white-space: nowrap;
  }
  .guess {
    color: var(--tight);
    border-bottom: 1px dotted var(--tight);
  }
</style>
