<script lang="ts">
  /** A caution that needs one acknowledgement; it stays readable afterwards. */
  let { id, text, scope }: { id: string; text: string; scope: string } = $props();
  const key = $derived(`caution:${scope}:${id}`);
  let seen = $state(0);
  const acknowledged = $derived(seen >= 0 && localStorage.getItem(key) === "1");

  function acknowledge() {
    localStorage.setItem(key, "1");
    seen += 1;
  }
</script>

<p class="caution" class:acknowledged>
  <span aria-hidden="true">▲</span>
  <span>{text}</span>
  {#if acknowledged}
    <span class="soft shrink-0 text-sm">read</span>
  {:else}
    <button class="button small shrink-0" onclick={acknowledge}>I have read this</button>
  {/if}
</p>

<style>
  .caution {
    display: flex;
    align-items: center;
    gap: 10px;
    border-left: 4px solid var(--tight);
    padding: 2px 10px;
    background: var(--panel);
    font-size: 13.5px;
  }
  .caution > span:first-child {
    color: var(--tight);
  }
  .caution > span:nth-child(2) {
    flex: 1;
  }
  .small {
    padding: 1px 9px;
  }
  .acknowledged {
    border-left-color: var(--line);
  }
</style>
