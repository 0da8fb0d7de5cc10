<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import { signed } from "$lib/units/format";
  import type { Load } from "./loads";

  /** Before, after, before again: what a small difference needs. */
  let { loads, before, after }: { loads: Load[]; before: Load; after: Load } = $props();
  let again = $state("");
  const others = $derived(loads.filter((one) => one.run !== before.run && one.run !== after.run));
  const chosen = $derived(others.find((one) => one.key === again));
  const asked = new Asked<Schemas["RepeatedOut"]>();

  $effect(() => {
    const path = { run_id: before.run, other_id: after.run, again_id: chosen?.run ?? "" };
    if (!chosen) return;
    return asked.ask(
      (as) => client.GET("/api/runs/{run_id}/repeated/{other_id}/{again_id}", { ...as, params: { path } }),
      0,
    );
  });
</script>

<section class="panel mt-3" aria-label="Before, after, before again">
  <label class="flex flex-wrap items-center gap-2">
    <span class="font-semibold">Before again</span>
    <span class="soft">a second run as A was, for differences under 3 K</span>
    <select class="field" bind:value={again}>
      <option value="">none</option>
      {#each others as load (load.key)}<option value={load.key}>{load.name}</option>{/each}
    </select>
  </label>
  {#if chosen}
    <Faults faults={asked.faults} alert />
    {#if asked.busy}<p class="soft mt-1" role="status">Comparing …</p>{:else if asked.answer}
      <p class="mt-2 text-lg font-semibold" data-testid="repeated">{asked.answer.sentence}</p>
      <ul class="mt-1">
        {#each asked.answer.parts as part (part.role)}
          <li>
            <strong>{part.name}</strong>
            <span class="num">{signed(part.change_k)} ± {part.half_k.toFixed(1)} K</span>, {part.conclusion}{part.because
              ? `: ${part.because}`
              : ""}
          </li>
        {/each}
      </ul>
    {/if}
  {/if}
</section>
