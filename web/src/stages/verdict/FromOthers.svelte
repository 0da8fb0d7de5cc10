<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { fixed } from "$lib/units/format";

  /** How far a run lies off what the others foretell of it: the honest number of a model that learns. */
  let { run }: { run: Schemas["FromOthers"] } = $props();
</script>

<p class="mt-1">
  <strong>{run.run}</strong>
  {#if run.learnt_k === null}<span class="soft">off by {fixed(run.assumed_k)} K as assumed; needs a second run</span
    >{:else}off by <span class="num">{fixed(run.learnt_k)} K</span> when foretold from the others, as assumed
    <span class="num">{fixed(run.assumed_k)} K</span>{/if}
</p>
