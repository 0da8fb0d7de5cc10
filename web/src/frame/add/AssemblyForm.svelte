<script lang="ts">
  import { missingFor, putAssembly } from "$lib/document/assemblies";
  import { assemblies } from "$lib/state/assemblies.svelte";
  import type { BuildState } from "$lib/state/build.svelte";

  /** Several parts with their ways in one step: a cooler that breathes the box, a card, a radiator with its fans. */
  let { build, added }: { build: BuildState; added: (text: string) => void } = $props();
  void assemblies.load();
  let chosenId = $state("");
  const chosen = $derived(assemblies.all.find((item) => item.id === chosenId) ?? assemblies.all[0]);
  const missing = $derived(build.document && chosen ? missingFor(build.document, chosen) : "");

  function add(event: SubmitEvent) {
    event.preventDefault();
    const item = chosen;
    if (!item || missing) return;
    build.edit(`add ${item.name}`, (draft) => putAssembly(draft, item));
    added(`Added ${item.name}: ${item.parts.length} parts.`);
  }
</script>

<form class="grid gap-2" onsubmit={add}>
  <div role="radiogroup" aria-label="What to put in" class="grid gap-1">
    {#each assemblies.all as item (item.id)}
      <label class="item" class:on={item === chosen}>
        <input
          type="radio"
          name="assembly"
          value={item.id}
          checked={item === chosen}
          onchange={() => (chosenId = item.id)}
        />
        <span><strong>{item.name}</strong><span class="soft block text-sm">{item.says}</span></span>
      </label>
    {/each}
  </div>
  <div class="flex items-center gap-3">
    <button class="button main" disabled={!build.editable || !!missing || !chosen}>Add</button>
    {#if missing}<span class="fault">{missing}</span>
    {:else}<span class="soft text-sm">every part can be changed or taken out afterwards; one step to undo</span>{/if}
  </div>
</form>

<style>
  .item {
    display: flex;
    align-items: baseline;
    gap: 9px;
    padding: 5px 8px;
    border: 1px solid transparent;
    border-radius: 7px;
    line-height: 1.3;
    cursor: pointer;
  }
  .item.on {
    background: var(--sunk);
    border-color: var(--line);
  }
</style>
