<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { hasOwnMains } from "$lib/document/feeds";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import { fixed, signed } from "$lib/units/format";
  import Faults from "$lib/ui/Faults.svelte";
  import { lasting } from "$lib/units/lasting";

  /** Each fan, pump and feed off in turn: where the machine settles, which limits it passes. */
  let { build }: { build: BuildState } = $props();
  const asked = new Asked<Schemas["Stopped"]>();

  $effect(() => {
    const document = build.document;
    const question = { workload: build.workloadId, room_c: build.roomC };
    if (!document || !question.workload) return;
    return asked.ask((as) => client.POST("/api/stopped", { ...as, body: { document, ...question } }), 300);
  });
  const timed = new Asked<Schemas["StoppedInTime"]>();
  $effect(() => {
    const document = build.document;
    const question = { workload: build.workloadId, room_c: build.roomC };
    if (!document || !question.workload || !build.bandsFresh || build.result?.no_state) return;
    return timed.ask((as) => client.POST("/api/stopped-in-time", { ...as, body: { document, ...question } }), 900);
  });
  const table = $derived(asked.answer);
  /** the first limit that is met once it is off; nothing while that is worked out */
  const firstMet = (address: string) =>
    timed.busy ? undefined : timed.answer?.minutes.find((one) => one.address === address)?.met[0];

  const worst = (item: Schemas["StoppedCase"]) =>
    item.places.reduce<Schemas["StoppedPlace"] | null>(
      (best, place) => (!best || place.over_as_built_k > best.over_as_built_k ? place : best),
      null,
    );
</script>

<section class="panel mt-3" aria-label="Off or stopped">
  <h2>Off or stopped <span class="soft">{build.workload?.name || build.workloadId}, settled</span></h2>
  <Faults faults={asked.faults} />
  {#if table && !table.cases.length}
    <p class="soft">No fan, pump or feed that could stop.</p>
  {:else if table}
    <table class="plain">
      <thead>
        <tr
          ><th>What is off</th><th>first limit after</th><th>passes its limit</th><th>warms most</th><th
            class="text-right">coolant</th
          ></tr
        >
      </thead>
      <tbody>
        {#each table.cases as item (item.address)}
          {@const place = worst(item)}
          <tr>
            <td
              ><button class="cursor-pointer font-semibold" onclick={() => (build.sheet = item.address)}
                >{item.name}</button
              >
              <span class="soft text-sm"
                >{item.kind}{item.stopped.length > 1 ? `, ${item.stopped.length} movers` : ""}</span
              ></td
            >
            <td
              >{#if firstMet(item.address)}<b class="num">{lasting(60 * firstMet(item.address)!.minutes)}</b>
                {firstMet(item.address)!.name}{:else}<span class="soft"
                  >{timed.busy ? "…" : timed.answer?.looked_min ? "none" : "–"}</span
                >{/if}</td
            >
            {#if item.no_state}
              <td class="fault" colspan="3">{item.no_state.what}</td>
            {:else}
              <td class:fault={item.passes.length}
                >{item.passes.join(", ") ||
                  "none"}{#if item.passes.length && hasOwnMains(build.document!, item.address)}: it has a mains plug of
                  its own and wants an interlock{/if}</td
              >
              <td
                >{#if place}{place.name}
                  <span class="num">{fixed(place.temperature_c)} °C</span>
                  <span class="num soft">{signed(place.over_as_built_k)} K</span>{/if}</td
              >
              <td class="num text-right">{item.coolant_c === null ? "–" : `${fixed(item.coolant_c)} °C`}</td>
            {/if}
          </tr>
        {/each}
      </tbody>
    </table>
    <p class="soft mt-1 text-sm">
      From the machine as it had settled, looked at for an hour; parts that throttle are held at their limit. A pump or
      fan that can be switched off by itself wants an interlock.
    </p>
  {:else if !asked.faults.length}
    <p class="soft">Stopping one after the other …</p>
  {/if}
</section>
