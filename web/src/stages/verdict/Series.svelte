<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import { day, fixed, signed } from "$lib/units/format";

  /** Every load in one table: parts over the room and K/W, the coolest and the warmest of each, drift. */
  let { build, cards }: { build: BuildState; cards: Schemas["RunCard"][] } = $props();
  const asked = new Asked<Schemas["RunTableOut"]>();
  let perWatt = $state(false);
  const found = $derived(asked.answer);

  $effect(() => {
    const path = { build_id: build.id };
    if (!cards.length) return;
    return asked.ask((as) => client.GET("/api/builds/{build_id}/runs/table", { ...as, params: { path } }), 0);
  });

  const cellOf = (row: Schemas["RunRow"], role: string) => row.cells.find((cell) => cell.role === role);
  const shown = (cell: Schemas["Cell"] | undefined) =>
    !cell ? "" : perWatt ? (cell.k_w === null ? "–" : fixed(cell.k_w, 3)) : fixed(cell.over_k);
</script>

<div class="mt-2 flex flex-wrap items-center gap-2">
  <div class="flex gap-1" role="radiogroup" aria-label="Shown as">
    <button class="button" class:main={!perWatt} role="radio" aria-checked={!perWatt} onclick={() => (perWatt = false)}
      >K over the room</button
    >
    <button class="button" class:main={perWatt} role="radio" aria-checked={perWatt} onclick={() => (perWatt = true)}
      >K/W of its own watts</button
    >
  </div>
  <a class="button text-sm" href={`/api/builds/${build.id}/runs.csv`} download>Series as CSV</a>
</div>
<Faults faults={asked.faults} alert />
{#if asked.busy}<p class="soft mt-3" role="status">Judging every run …</p>{/if}
{#if found}
  <section class="panel mt-3">
    <div class="overflow-x-auto">
      <table class="plain" data-testid="series">
        <thead>
          <tr>
            <th>Run</th><th class="text-right">room</th><th class="text-right">watts</th>
            {#each found.roles as role (role)}<th class="text-right">{found.names[role]}</th>{/each}
          </tr>
        </thead>
        <tbody>
          {#each found.rows as row (row.run)}
            <tr>
              <td class="min-w-52"
                ><strong>{row.name}</strong><span class="soft block text-sm"
                  >{row.workload}, revision {row.revision}, {day(row.created)}</span
                ></td
              >
              <td class="num text-right whitespace-nowrap"
                >{fixed(row.room.air_c)}{row.room.half_k ? ` ± ${fixed(row.room.half_k)}` : ""}</td
              >
              <td class="num text-right">{fixed(row.watts, 0)}</td>
              {#each found.roles as role (role)}
                <td
                  class="num text-right whitespace-nowrap"
                  class:best={found.best[role] === row.run}
                  class:worst={found.worst[role] === row.run}
                  >{shown(cellOf(row, role))}{found.best[role] === row.run
                    ? " ▾"
                    : found.worst[role] === row.run
                      ? " ▴"
                      : ""}</td
                >
              {/each}
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
    <p class="soft mt-1 text-sm">
      ▾ coolest and ▴ warmest of a part over the room, among runs of its commonest workload.
    </p>
    {#each found.bought as step (step.first + step.second)}<p class="mt-1 font-semibold">{step.says}</p>{/each}
    {#each found.drifts as drift (drift.role)}
      <p class="mt-1">
        {found.names[drift.role]} drifts by <span class="num">{signed(drift.k_year)} ± {fixed(drift.half_k)} K</span> a year.
      </p>
    {/each}
  </section>
{/if}

<style>
  .best {
    color: var(--holds);
    font-weight: 650;
  }
  .worst {
    color: var(--too-hot);
    font-weight: 650;
  }
</style>
