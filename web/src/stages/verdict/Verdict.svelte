<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { Runs } from "$lib/state/runs.svelte";
  import Views from "$lib/ui/Views.svelte";
  import Compare from "./Compare.svelte";
  import Learn from "./Learn.svelte";
  import RunByRun from "./RunByRun.svelte";
  import Series from "./Series.svelte";
  import { VIEWS } from "./views";

  let { build, view }: { build: BuildState; view: string } = $props();
  const open = $derived(VIEWS.find((item) => item.id === view) ?? VIEWS[0]);
  const runs = new Runs();

  $effect(() => {
    if (build.id) void runs.list(build.id);
  });
</script>

<div class="flex flex-wrap items-baseline gap-3">
  <h1>Verdict</h1>
  <Views base={`#/build/${build.id}/verdict`} views={VIEWS} open={open.id} />
</div>
{#if runs.cards === null}
  <p class="soft mt-4">Loading …</p>
{:else if !runs.cards.length}
  <p class="soft mt-4">No run yet: go to <a href={`#/build/${build.id}/bench`}>Bench</a> and bring one in.</p>
{:else if open.id === "compare"}<Compare {build} cards={runs.cards} />
{:else if open.id === "learn"}<Learn {build} cards={runs.cards} />
{:else if open.id === "series"}<Series {build} cards={runs.cards} />
{:else}<RunByRun {build} cards={runs.cards} />{/if}
