<script lang="ts">
  import type { LoopResult } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { leaves, rows } from "$lib/document/elements";
  import { oneRadiatorFewer, secondPump } from "$lib/document/loops";
  import { removePart } from "$lib/document/parts";
  import { moved } from "$lib/document/build";
  import { fixed } from "$lib/units/format";

  /** Every element of a loop in flow order, branches indented: its share of the pressure, pressure and coolant after it. */
  let { build, loop }: { build: BuildState; loop: LoopResult } = $props();
  const own = $derived(build.document?.loops.find((l) => l.id === loop.address));
  const list = $derived(rows(own?.elements ?? []));
  const element = (id: string) => loop.elements.find((e) => e.address === id);
  const most = $derived(Math.max(...loop.elements.map((e) => e.share), 0.01));
  const radiators = $derived(loop.elements.filter((e) => e.kind === "radiator").length);

  const tryPump = () =>
    void build.trial.propose(`a second pump in ${loop.name}`, (draft) => secondPump(draft, loop.address));
  const tryFewer = () =>
    void build.trial.propose(`one radiator fewer in ${loop.name}`, (draft) => oneRadiatorFewer(draft, loop.address));

  function onkeydown(event: KeyboardEvent, id: string) {
    const row = (event.currentTarget as HTMLElement).closest("tr")!;
    const by = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (event.key === "Delete") build.edit(`take ${element(id)?.name ?? id} out`, (draft) => removePart(draft, id));
    else if (by && event.altKey) {
      const at = own!.elements.findIndex((item) => leaves([item]).includes(id));
      build.edit(`order of ${loop.name}`, (draft) => {
        const target = draft.loops.find((l) => l.id === loop.address);
        if (target) target.elements = moved(target.elements, at, by);
      });
    } else if (by) {
      const next = by > 0 ? row.nextElementSibling : row.previousElementSibling;
      next?.querySelector<HTMLElement>("button")?.focus();
    } else return;
    event.preventDefault();
  }
</script>

<details class="mt-2" data-testid="loop-table">
  <summary class="cursor-pointer font-semibold"
    >Every element, its share of the pressure, and what changes would bring</summary
  >
  <table class="plain mt-1">
    <thead>
      <tr
        ><th>Element</th><th class="text-right">l/min</th><th class="text-right">kPa</th><th>share of the drop</th><th
          class="text-right">pressure after</th
        ><th class="text-right">coolant after</th></tr
      >
    </thead>
    <tbody>
      {#each list as row (row.id)}
        {@const e = element(row.id)}
        {#if e}
          <tr>
            <td style:padding-left="{8 + 18 * row.depth}px">
              <button
                class="cursor-pointer font-semibold"
                onclick={() => (build.sheet = row.id)}
                onkeydown={(event) => onkeydown(event, row.id)}
                >{#if row.branch}<span class="soft num">{row.branch} </span>{/if}{e.name}</button
              >
            </td>
            <td class="num text-right">{fixed(e.flow_l_min, 2)}</td>
            <td class="num text-right">{fixed(e.drop_kpa, 2)}</td>
            <td
              ><span class="bar"><span style:width="{(100 * e.share) / most}%"></span></span>
              <span class="num soft">{e.kind === "pump" ? "" : `${fixed(100 * e.share, 0)} %`}</span></td
            >
            <td
              class="num text-right"
              class:over={e.limit_kpa !== null && e.kind !== "pump" && e.pressure_kpa > e.limit_kpa}
              >{fixed(e.pressure_kpa)} kPa</td
            >
            <td class="num text-right">{fixed(e.outlet_c)} °C</td>
          </tr>
        {/if}
      {/each}
    </tbody>
  </table>
  <p class="soft mt-1">
    Filled with <span class="num">{fixed(loop.fill_l, 2)} l</span>; grows by
    <span class="num">{fixed(loop.expansion_ml, 0)} ml</span> when warm{#if loop.air_room_ml !== null}, <span
        class="num">{fixed(loop.air_room_ml, 0)} ml</span
      > of air to take it{/if}. Highest pressure <span class="num">{fixed(loop.highest_kpa)} kPa</span>.
    {#each loop.pumps as pump (pump.address)}
      {build.sourceNames[pump.address]}: <span class="num">{fixed(pump.electric_w)} W</span> electric,
      <span class="num">{fixed(pump.into_coolant_w)} W</span> of it into the coolant{#if pump.efficiency !== null},
        about {fixed(100 * pump.efficiency, 0)} % become flow (a guess){/if}.
    {/each}
    {#if loop.air_collects_at}Air collects at {build.sourceNames[loop.air_collects_at]}.{/if}
  </p>
  <p class="soft text-sm">↑ ↓ along the loop · Alt ↑ ↓ moves · Enter opens · Del takes out</p>
  <div class="mt-1 flex gap-2">
    <button class="button" onclick={tryPump}>What would a second pump change?</button>
    <button class="button" onclick={tryFewer} disabled={radiators < 2}>… one radiator fewer?</button>
    <button
      class="button"
      onclick={() => (build.adding = { what: "part", into: loop.address })}
      disabled={!build.editable}>Add a part</button
    >
  </div>
</details>

<style>
  .bar {
    display: inline-block;
    width: 90px;
    vertical-align: middle;
  }
  .bar span {
    display: block;
    height: 7px;
    border-radius: 3px;
    background: var(--soft);
  }
  .over {
    color: var(--too-hot);
    font-weight: 700;
  }
</style>
