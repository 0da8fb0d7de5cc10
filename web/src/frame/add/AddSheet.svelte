<script lang="ts">
  import type { AddWhat, BuildState } from "$lib/build.svelte";
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

<section class="sheet" aria-label="Add to the build">
  <header>
    <h2>Add to the build</h2>
    <button class="button" onclick={() => (build.adding = null)} aria-label="Esc: close the sheet">Esc</button>
  </header>
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
  {:else if adding.what === "source"}<SourceForm {build} added={(text) => (said = text)} />
  {:else}<PlaceForm {build} what={adding.what} added={(text) => (said = text)} />{/if}
  <p class="soft mt-3" role="status">{said}</p>
  <p class="soft text-sm">Alt 1 to 5 chooses what to add; Enter adds; Esc closes</p>
</section>

<style>
  .sheet {
    position: fixed;
    top: 66px;
    right: 0;
    bottom: 0;
    width: 392px;
    z-index: 22;
    overflow-y: auto;
    background: var(--panel);
    border-left: 2px solid var(--accent);
    padding: 14px 16px;
    box-shadow: -6px 0 24px rgb(0 0 0 / 0.14);
  }
  header {
    display: flex;
    justify-content: space-between;
    align-items: center;
    margin-bottom: 8px;
  }
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
