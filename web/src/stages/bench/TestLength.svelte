<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import { fixed } from "$lib/units/format";
  import { lasting, planned } from "$lib/units/lasting";

  /** How long a test of the load in view must last, from the build's own time constants, and when to read what. */
  let { build }: { build: BuildState } = $props();
  const asked = new Asked<Schemas["InTime"]>();
  const ASK_MS = 400;
  $effect(() => {
    const { document, workloadId: workload, roomC: room_c } = build;
    if (!document || !workload || !build.bandsFresh || !build.result || build.result.no_state) return;
    const body = { document, workload, room_c, minutes: 90 };
    return asked.ask((as) => client.POST("/api/forecast-in-time", { ...as, body }), ASK_MS);
  });
  const told = $derived(asked.answer);
  const minutes = $derived(told ? planned(told.minutes_needed) : 0);
  const coolant = $derived(told?.curves.find((curve) => curve.kind === "coolant"));
  /** a reading early, one where the fast parts have settled, one before the end and one at it */
  const due = $derived(
    [...new Set([5, Math.round(minutes / 3), Math.round(0.75 * minutes), minutes])].filter((m) => m > 0),
  );
</script>

{#if told && !asked.faults.length}
  <p class="length" data-testid="test-length">
    <b>Load on for <span class="num">{minutes} min</span>:</b> every part is within 1 K after
    <span class="num">{lasting(60 * told.minutes_needed)}</span>, {told.slowest} last{#if coolant}, the coolant after
      <span class="num">{lasting(60 * coolant.within_1k_min)}</span>{/if}.
    {#if told.share_at_30 !== null && minutes > 30}30 minutes show
      <span class="num">{fixed(100 * told.share_at_30, 0)} %</span> of its rise.{/if}
    <span class="soft">Read at minute {due.join(", ")}.</span>
  </p>
{/if}

<style>
  .length {
    margin-top: 8px;
  }
</style>
