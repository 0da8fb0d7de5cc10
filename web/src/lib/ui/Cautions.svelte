<script lang="ts">
  import { cautionsFor, isRead, type Caution } from "$lib/document/cautions";
  import type { BuildState } from "$lib/state/build.svelte";

  /** Cautions of a step, each acknowledged once for the build; what was read stays readable. */
  let { build, at }: { build: BuildState; at: Caution["at"] } = $props();
  const own = $derived(build.document ? cautionsFor(build.document, at) : []);

  const acknowledge = (id: string) =>
    build.edit("a caution is read", (draft) => {
      draft.cautions_read = [...(draft.cautions_read ?? []), id];
    });
</script>

{#each own as { id, text } (id)}
  {@const read = isRead(build.document!, id)}
  <p class="caution" class:read>
    <span aria-hidden="true">▲</span>
    <span>{text}</span>
    {#if read}
      <span class="soft shrink-0 text-sm">read</span>
    {:else}
      <button class="button small shrink-0" disabled={!build.editable} onclick={() => acknowledge(id)}
        >I have read this</button
      >
    {/if}
  </p>
{/each}

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
  .read {
    border-left-color: var(--line);
  }
</style>
