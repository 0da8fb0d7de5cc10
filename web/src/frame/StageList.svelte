<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import ThemeToggle from "$lib/ui/ThemeToggle.svelte";
  import { STAGES, stateOf } from "./stages";

  let { build, stage, showKeys }: { build: BuildState; stage: string; showKeys: () => void } = $props();
  /** stages for one hand beside the machine */
  const HAND = ["bench", "verdict", "sheet", "logbook"];
</script>

<nav aria-label="Stages">
  {#each STAGES as item (item.id)}
    {@const state = stateOf(item.id, build)}
    <a
      href={`#/build/${build.id}/${item.id}`}
      class:hand={HAND.includes(item.id)}
      onclick={() => (build.sheet = build.adding = null)}
      aria-current={stage === item.id ? "page" : undefined}
    >
      <span class="key num">{item.key}</span>
      <span class="label">{item.name}</span>
      <span class="mark num {state.tone}" title={state.title}
        >{state.mark}<span class="sr-only">{state.title}</span></span
      >
    </a>
  {/each}
  <div class="foot">
    <button class="button" onclick={showKeys}>? help, keys</button>
    <ThemeToggle />
  </div>
</nav>

<style>
  nav {
    width: 142px;
    background: var(--panel);
    border-right: 2px solid var(--line);
    display: flex;
    flex-direction: column;
    padding-top: 12px;
  }
  a {
    display: flex;
    align-items: center;
    gap: 10px;
    padding: 8px 10px 8px 12px;
    color: var(--ink);
    border-left: 4px solid transparent;
  }
  a[aria-current] {
    background: var(--sunk);
    border-left-color: var(--accent);
    font-weight: 700;
  }
  .key {
    font-size: 12px;
    color: var(--soft);
  }
  .label {
    flex: 1;
  }
  .mark {
    font-size: 13px;
    font-weight: 600;
  }
  .good {
    color: var(--holds);
  }
  .warn {
    color: var(--tight);
  }
  .bad {
    color: var(--too-hot);
  }
  .plain {
    color: var(--soft);
  }
  @media (max-width: 699px) {
    nav {
      position: relative;
      width: 100%;
      flex-direction: row;
      order: 2;
      padding: 0;
      overflow-x: auto;
      border-right: none;
      border-top: 2px solid var(--line);
    }
    a {
      flex: 1 0 auto;
      flex-direction: column;
      justify-content: center;
      gap: 0;
      min-width: 64px;
      min-height: 52px;
      padding: 4px 8px;
      font-size: 13px;
      border-left: none;
      border-top: 4px solid transparent;
    }
    a[aria-current] {
      border-top-color: var(--accent);
    }
    /* those that are made for the phone stand first */
    a:not(.hand) {
      order: 1;
    }
    .key,
    .foot {
      display: none !important;
    }
    .label {
      flex: none;
    }
    .mark:empty {
      display: none;
    }
  }
  .foot {
    margin-top: auto;
    padding: 10px;
    display: grid;
    gap: 6px;
    font-size: 14px;
  }
</style>
