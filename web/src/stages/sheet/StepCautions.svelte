<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { readWords } from "$lib/document/cautions";
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Marks } from "$lib/state/marks.svelte";

  /** Cautions of the step at hand, each acknowledged once for the build, by whom and when. */
  let { build, marks, cautions }: { build: BuildState; marks: Marks; cautions: Schemas["StepCaution"][] } = $props();
</script>

{#each cautions as caution (caution.id)}
  {@const read = readWords(build.document, caution.id, marks.readBy(caution.id))}
  <p class="caution" class:read>
    <span aria-hidden="true">▲</span>
    <span class="grow">{caution.text}</span>
    {#if read}<span class="soft text-sm">{read}</span>
    {:else if build.editable}
      <button class="button small" onclick={() => marks.add(caution.id, "read")}>I have read this</button>
    {/if}
  </p>
{/each}

<style>
  .caution {
    display: flex;
    gap: 8px;
    align-items: center;
    color: var(--tight);
    font-size: 14px;
  }
  .caution.read {
    color: var(--soft);
  }
  .grow {
    flex: 1;
  }
  .small {
    padding: 2px 9px;
    flex: none;
  }
</style>
