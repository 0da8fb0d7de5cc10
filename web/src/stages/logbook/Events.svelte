<script lang="ts">
  import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import { clock, day } from "$lib/units/format";

  /** Who did what with a build, and when; asked for when it is opened. */
  let { build }: { build: BuildState } = $props();
  let events = $state.raw<Schemas["EventOut"][] | null>(null);
  let faults = $state.raw<Fault[]>([]);

  async function load() {
    const { data, error } = await client.GET("/api/builds/{build_id}/events", {
      params: { path: { build_id: build.id } },
    });
    events = data ?? [];
    faults = error ? faultsOf(error) : [];
  }
</script>

<details class="panel mt-3" ontoggle={(event) => event.currentTarget.open && load()}>
  <summary class="cursor-pointer"><h2 class="inline">Who did what</h2></summary>
  <Faults {faults} alert />
  {#if events === null}
    <p class="soft">Loading …</p>
  {:else}
    <table class="plain mt-2">
      <thead><tr><th>When</th><th>who</th><th>did what</th></tr></thead>
      <tbody>
        {#each events as event, i (i)}
          <tr
            ><td class="num whitespace-nowrap">{day(event.at)}, {clock(event.at)}</td><td>{event.who}</td><td
              >{event.did}</td
            ></tr
          >
        {:else}
          <tr><td colspan="3" class="soft">Nothing was written down yet: the list began with this version.</td></tr>
        {/each}
      </tbody>
    </table>
  {/if}
</details>
