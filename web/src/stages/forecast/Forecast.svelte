<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import TrialPanel from "$lib/ui/TrialPanel.svelte";
  import Views from "$lib/ui/Views.svelte";
  import DesignMap from "./DesignMap.svelte";
  import EveryPart from "./EveryPart.svelte";
  import FanCurve from "./FanCurve.svelte";
  import MeasureFirst from "./MeasureFirst.svelte";
  import SideBySide from "./beside/SideBySide.svelte";
  import SizeIt from "./size/SizeIt.svelte";
  import SolveFor from "./SolveFor.svelte";
  import InTime from "./time/InTime.svelte";
  import { VIEWS } from "./views";

  let { build, view }: { build: BuildState; view: string } = $props();
  const open = $derived(VIEWS.find((item) => item.id === view) ?? VIEWS[0]);
</script>

<div class="flex flex-wrap items-baseline gap-3">
  <h1>Forecast</h1>
  <Views base={`#/build/${build.id}/forecast`} views={VIEWS} open={open.id} />
</div>
{#if open.id === "time"}<InTime {build} />
{:else if open.id === "size"}<SizeIt {build} />
{:else if open.id === "map"}<DesignMap {build} />
{:else if open.id === "solve"}<SolveFor {build} />
{:else if open.id === "fan-curve"}<FanCurve {build} />
{:else if open.id === "measure"}<MeasureFirst {build} />
{:else if open.id === "beside"}<SideBySide {build} />
{:else}<EveryPart {build} />{/if}
<TrialPanel {build} />
