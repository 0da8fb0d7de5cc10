<script lang="ts">
  import type { BuildsState } from "$lib/state/builds.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import BuildRow from "./BuildRow.svelte";

  /** Every build in one line each, the newest first. */
  let { builds }: { builds: BuildsState } = $props();
  const many = (count: number) => `${count} ${count === 1 ? "build" : "builds"}`;
</script>

<section aria-labelledby="builds">
  <div class="mb-1 flex flex-wrap items-baseline gap-x-4 gap-y-1">
    <h2 id="builds" class="text-xl">{builds.archive ? "Archive" : "Builds"}</h2>
    {#if builds.shown.length}
      <span class="soft">{many(builds.shown.length)}, each judged in its tightest workload and its hottest room</span>
    {/if}
    {#if builds.archived || builds.archive}
      <button class="link ml-auto" onclick={() => (builds.archive = !builds.archive)}
        >{builds.archive ? "Back to the builds" : `Archive, ${builds.archived}`}</button
      >
    {/if}
  </div>
  {#if builds.deleted}
    <div class="banner" role="status">
      <span class="grow">{builds.deleted.name} is deleted.</span>
      <button class="button" onclick={() => builds.restore()}>Bring it back</button>
    </div>
  {/if}
  <Faults faults={builds.faults} alert />
  {#if builds.builds === null}
    <p class="soft">Loading …</p>
  {:else if builds.shown.length === 0}
    <p class="soft">
      {builds.found !== null
        ? `Nothing says “${builds.text.trim()}”.`
        : builds.archive
          ? "The archive is empty."
          : "No build yet. Choose a shape below, or open a build file."}
    </p>
  {:else}
    <table>
      <thead>
        <tr>
          <th><span class="sr-only">Terraces</span></th><th>Build</th><th>Will it hold?</th><th class="right"
            >To spare</th
          >
          <th>Tightest part</th><th class="right wide">Sound</th><th class="wide">Last run</th><th class="wide">Kept</th
          >
          <th><span class="sr-only">More</span></th>
        </tr>
      </thead>
      <tbody>
        {#each builds.shown as build (build.id)}<BuildRow {builds} {build} />{/each}
      </tbody>
    </table>
  {/if}
</section>

<style>
  table {
    width: 100%;
    border-collapse: collapse;
  }
  thead th {
    padding: 4px 8px;
    text-align: left;
    font-size: 13.5px;
    font-weight: 600;
    color: var(--soft);
    border-bottom: 1.5px solid var(--ink);
  }
  thead .right {
    text-align: right;
  }
  @media (max-width: 1020px) {
    .wide {
      display: none;
    }
  }
  @media (max-width: 700px) {
    thead {
      position: absolute;
      clip-path: inset(50%);
    }
    table,
    tbody {
      display: block;
    }
  }
</style>
