<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import TrialPanel from "$lib/ui/TrialPanel.svelte";
  import DesignMap from "./DesignMap.svelte";
  import EveryPart from "./EveryPart.svelte";
  import FanCurve from "./FanCurve.svelte";
  import MeasureFirst from "./MeasureFirst.svelte";
  import SideBySide from "./beside/SideBySide.svelte";
  import SizeIt from "./size/SizeIt.svelte";
  import SolveFor from "./SolveFor.svelte";
  import { VIEWS } from "./views";

  let { build, view }: { build: BuildState; view: string } = $props();
  const open = $derived(VIEWS.find((item) => item.id === view) ?? VIEWS[0]);
</script>

<div class="flex flex-wrap items-baseline gap-3">
  <h1>Forecast</h1>
  <nav aria-label="Questions" class="views">
    {#each VIEWS as item (item.id)}
      <a
        href={`#/build/${build.id}/forecast${item.id ? `/${item.id}` : ""}`}
        aria-current={item.id === open.id ? "page" : undefined}
        title={item.says}>{item.name}</a
      >
    {/each}
  </nav>
</div>
{#if open.id === "size"}<SizeIt {build} />
{:else if open.id === "map"}<DesignMap {build} />
{:else if open.id === "solve"}<SolveFor {build} />
{:else if open.id === "fan-curve"}<FanCurve {build} />
{:else if open.id === "measure"}<MeasureFirst {build} />
{:else if open.id === "beside"}<SideBySide {build} />
{:else}<EveryPart {build} />{/if}
<TrialPanel {build} />

<style>
  .views {
    display: flex;
    flex-wrap: wrap;
    gap: 2px;
  }
  .views a {
    padding: 4px 10px;
    border-radius: 7px;
    color: var(--soft);
    font-weight: 550;
  }
  .views a[aria-current="page"] {
    background: var(--panel);
    color: var(--ink);
    box-shadow: inset 0 -2px 0 var(--accent);
  }
  .views a:hover {
    background: var(--sunk);
  }
  @media print {
    .views {
      display: none;
    }
  }
</style>
