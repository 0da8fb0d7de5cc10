<script lang="ts">
  import { HELP } from "$lib/help";

  /** On the first visit of a stage: what it answers and what to enter first. Gone for good once it is closed. */
  let { stage, more }: { stage: string; more: () => void } = $props();
  const key = $derived(`hint:${stage}`);
  let closed = $state(0);
  const shown = $derived(closed >= 0 && localStorage.getItem(key) !== "1" && HELP[stage]);

  function close() {
    localStorage.setItem(key, "1");
    closed += 1;
  }
</script>

{#if shown}
  <aside class="hint" aria-label="What this stage answers">
    <span class="grow">{shown.answers} <span class="soft">First: {shown.first.join("; ")}.</span></span>
    <button class="button" onclick={more}>More (?)</button>
    <button class="button" onclick={close}>Got it</button>
  </aside>
{/if}

<style>
  .hint {
    display: flex;
    align-items: center;
    gap: 8px;
    padding: 5px 10px;
    margin-bottom: 8px;
    border-left: 4px solid var(--accent);
    background: var(--panel);
    font-size: 13.5px;
    line-height: 1.35;
  }
  .hint .button {
    padding: 3px 10px;
    white-space: nowrap;
  }
  @media (max-width: 699px) {
    .hint {
      flex-wrap: wrap;
    }
  }
  @media print {
    .hint {
      display: none;
    }
  }
</style>
