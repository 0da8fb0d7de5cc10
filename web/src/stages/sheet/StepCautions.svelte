<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { isRead } from "$lib/document/cautions";
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Marks } from "$lib/state/marks.svelte";
  import { day } from "$lib/units/format";

  /** Cautions of the step at hand, each acknowledged once for the build, by whom and when. */
  let { build, marks, cautions }: { build: BuildState; marks: Marks; cautions: Schemas["StepCaution"][] } = $props();
</script>

{#each cautions as caution (caution.id)}
  {@const read = marks.readBy(caution.id)}
  <p class="caution" class:read={read ?? isRead(build.document!, caution.id)}>
    <span aria-hidden="true">▲</span>
    <span class="grow">{caution.text}</span>
    {#if read}<span class="soft text-sm">read{read.who ? `, ${read.who}` : ""}, {day(read.at)}</span>
    {:else if isRead(build.document!, caution.id)}<span class="soft text-sm">read</span>
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
