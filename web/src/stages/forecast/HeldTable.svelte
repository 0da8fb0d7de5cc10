<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import { fixed } from "$lib/units/format";
  import Faults from "$lib/ui/Faults.svelte";

  /** The power limit as the unknown: watts that are held by source, workload and room. */
  let { build }: { build: BuildState } = $props();
  type Held = Schemas["Held"];
  const asked = new Asked<Schemas["Holds"]>();

  $effect(() => {
    const document = build.document;
    if (!document) return;
    return asked.ask((as) => client.POST("/api/watts-it-holds", { ...as, body: { document } }), 400);
  });
  const held = $derived(asked.answer?.held ?? []);
  const sources = $derived([...new Set(held.map((item) => item.source))]);
  const rooms = $derived([...new Set(held.map((item) => item.room_c))].sort((a, b) => a - b));
  const at = (source: string, room: number) =>
    held.find((item) => item.source === source && item.room_c === room && item.workload === build.workloadId);

  function words(item: Held): string {
    if (item.never) return "none";
    if (item.watts === null) return item.more_than_w === null ? "–" : `over ${fixed(item.more_than_w, 0)} W`;
    return watt(item.watts);
  }

  const watt = (watts: number) => `${fixed(watts, watts < 20 ? 1 : 0)} W`;

  /** What is held with the hot half of every band. */
  function sureWords(item: Held): string {
    if (item.never || (item.watts === null && item.more_than_w === null)) return "";
    if (item.watts_surely !== null) return `surely ${watt(item.watts_surely)}`;
    return item.more_than_w === null ? "" : "surely as much";
  }
</script>

<section class="panel mt-3" aria-label="Watts it holds">
  <h2>Watts it holds</h2>
  <p class="soft">
    {build.workload?.name || build.workloadId}: each source alone raised or lowered until the first limit less the
    margin wanted ({fixed(asked.answer?.margin_k, 0)} K); surely: until the hot end of a band gets there.
  </p>
  <Faults faults={asked.faults} />
  {#if asked.answer && sources.length}
    <table class="plain" class:asking={asked.busy} data-testid="held">
      <thead>
        <tr
          ><th>source</th><th class="text-right">draws now</th>{#each rooms as room (room)}<th class="text-right"
              >at {fixed(room, 0)} °C</th
            >{/each}<th>first to pass</th></tr
        >
      </thead>
      <tbody>
        {#each sources as source (source)}
          {@const warmest = at(source, rooms.at(-1)!)}
          {#if warmest}
            <tr>
              <td class="font-semibold">{warmest.name}</td>
              <td class="num text-right">{fixed(warmest.watts_now)} W</td>
              {#each rooms as room (room)}
                {@const item = at(source, room)}
                <td
                  class="num text-right"
                  class:fault={item && (item.never || (item.watts !== null && item.watts < item.watts_now))}
                  >{item ? words(item) : "–"}{#if item}<span class="soft sure block text-sm">{sureWords(item)}</span
                    >{/if}</td
                >
              {/each}
              <td class="soft"
                >{warmest.first_name}{#if warmest.held_out.length}
                  <span class="fault block text-sm">passed whatever it takes: {warmest.held_out.join(", ")}</span
                  >{/if}{#if warmest.in_doubt.length}
                  <span class="block text-sm">not sure whatever it takes: {warmest.in_doubt.join(", ")}</span>{/if}</td
              >
            </tr>
          {/if}
        {/each}
      </tbody>
    </table>
  {:else if !asked.faults.length}
    <p class="soft">{asked.answer ? "No source draws anything." : "Raising one source after the other …"}</p>
  {/if}
</section>

<style>
  td.num {
    white-space: nowrap;
  }
  .sure {
    font-weight: 400;
    letter-spacing: -0.02em;
  }
</style>
