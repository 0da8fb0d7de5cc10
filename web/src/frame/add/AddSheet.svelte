<script lang="ts">
  import type { AddWhat, BuildState } from "$lib/state/build.svelte";
  import Sheet from "$lib/ui/Sheet.svelte";
  import AssemblyForm from "./AssemblyForm.svelte";
  import PartForm from "./PartForm.svelte";
  import PlaceForm from "./PlaceForm.svelte";
  import SourceForm from "./SourceForm.svelte";

  /** Adds whatever a build is made of; everything by keyboard. */
  let { build }: { build: BuildState } = $props();
  const TABS: [AddWhat["what"], string][] = [
    ["part", "Part"],
    ["source", "Source"],
    ["path", "Air path"],
    ["chamber", "Chamber"],
    ["loop", "Loop"],
    ["assembly", "Set"],
  ];
  const adding = $derived(build.adding!);
  let said = $state("");

  /** Alt and a number choose what to add without leaving the field. */
  function onkeydown(event: KeyboardEvent) {
    const tab = event.altKey ? TABS[Number(event.key) - 1] : undefined;
    if (!tab) return;
    event.preventDefault();
    build.adding = { what: tab[0] };
  }

  function ontab(event: KeyboardEvent) {
    const by = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
    if (!by) return;
    const at = TABS.findIndex(([what]) => what === adding.what);
    build.adding = { what: TABS[(at + by + TABS.length) % TABS.length]![0] };
    const tabs = (event.currentTarget as HTMLElement).parentElement!;
    requestAnimationFrame(() => tabs.querySelector<HTMLElement>('[aria-selected="true"]')?.focus());
    event.preventDefault();
  }
</script>

<svelte:window {onkeydown} />

<Sheet label="Add to the build" title="Add to the build" width={408} close={() => (build.adding = null)}>
  <div role="tablist" class="tabs" aria-label="What to add">
    {#each TABS as [what, name] (what)}
      <button
        role="tab"
        class="tab"
        aria-selected={adding.what === what}
        tabindex={adding.what === what ? 0 : -1}
        onclick={() => (build.adding = { what })}
        onkeydown={ontab}>{name}</button
      >
    {/each}
  </div>
  {#if adding.what === "part"}<PartForm {build} into={adding.into} added={(text) => (said = text)} />
  {:else if adding.what === "assembly"}<AssemblyForm {build} added={(text) => (said = text)} />
  {:else if adding.what === "source"}<SourceForm {build} added={(text) => (said = text)} />
  {:else}<PlaceForm {build} what={adding.what} added={(text) => (said = text)} />{/if}
  <p class="soft mt-3" role="status">{said}</p>
  <p class="soft text-sm">Alt 1 to 6 chooses what to add; Enter adds; Esc closes</p>
</Sheet>

<style>
  .tabs {
    display: flex;
    gap: 2px;
    border-bottom: 1px solid var(--line);
    margin-bottom: 10px;
  }
  .tab {
    padding: 5px 9px;
    border-bottom: 3px solid transparent;
    font-weight: 600;
    color: var(--soft);
    cursor: pointer;
  }
  .tab[aria-selected="true"] {
    color: var(--ink);
    border-color: var(--accent);
  }
</style>
