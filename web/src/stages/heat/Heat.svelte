<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import HeatGrid from "./HeatGrid.svelte";
  import Feeds from "./Feeds.svelte";

  let { build }: { build: BuildState } = $props();
</script>

<div class="flex flex-wrap items-baseline gap-3">
  <h1>Heat</h1>
  <p class="soft">what each source draws for long, not what is written on it</p>
</div>
<HeatGrid {build} />
<Feeds {build} />
