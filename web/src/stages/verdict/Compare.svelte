<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import { fixed, signed } from "$lib/units/format";
  import DifferenceRow from "./DifferenceRow.svelte";
  import { loadsOf } from "./loads";
  import Repeated from "./Repeated.svelte";
  import TwinTowers from "./TwinTowers.svelte";

  /** Two loads held against each other: one sentence, both on one scale, each part, what else was changed. */
  let { build, cards }: { build: BuildState; cards: Schemas["RunCard"][] } = $props();
  const loads = $derived(loadsOf(cards));
  let pickedA = $state<string | null>(null);
  let pickedB = $state<string | null>(null);
  const a = $derived(loads.find((one) => one.key === pickedA) ?? loads.at(-2) ?? loads.at(-1)!);
  const b = $derived(loads.find((one) => one.key === pickedB) ?? loads.at(-1)!);
  /** what both are brought to beside equal watts: the second's speeds, or the first's sound */
  let equal = $state<"speeds" | "sound">("speeds");
  const asked = new Asked<Schemas["CompareOut"]>();
  const found = $derived(a.key === b.key ? null : asked.answer);
  const most = $derived(
    Math.max(...(found?.parts ?? []).map((p) => Math.abs(p.equal_k) + Math.min(p.equal_half_k, 6)), 3),
  );

  $effect(() => {
    const path = { run_id: a.run, other_id: b.run };
    const query = { window: a.window, other_window: b.window, equal };
    if (a.key === b.key) return;
    return asked.ask(
      (as) => client.GET("/api/runs/{run_id}/compare/{other_id}", { ...as, params: { path, query } }),
      0,
    );
  });

  function swap() {
    const [first, second] = [a.key, b.key];
    pickedA = second;
    pickedB = first;
  }
</script>

<div class="mt-2 flex flex-wrap items-center gap-2" aria-label="Compare">
  <label class="flex items-center gap-2 font-semibold"
    >A
    <select
      class="field max-w-64"
      aria-label="First run"
      value={a.key}
      onchange={(e) => (pickedA = e.currentTarget.value)}
    >
      {#each loads as load (load.key)}<option value={load.key}>{load.name}, revision {load.card.revision}</option
        >{/each}
    </select></label
  >
  <button class="button" aria-label="Swap the two" onclick={swap}>⇄</button>
  <label class="flex items-center gap-2 font-semibold"
    >B
    <select
      class="field max-w-64"
      aria-label="Second run"
      value={b.key}
      onchange={(e) => (pickedB = e.currentTarget.value)}
    >
      {#each loads as load (load.key)}<option value={load.key}>{load.name}, revision {load.card.revision}</option
        >{/each}
    </select></label
  >
  <span class="grow"></span>
  <span class="flex items-center gap-1" role="radiogroup" aria-label="At equal">
    <span class="soft">at equal watts and</span>
    {#each ["speeds", "sound"] as const as one (one)}
      <button
        class="button text-sm"
        class:main={equal === one}
        role="radio"
        aria-checked={equal === one}
        onclick={() => (equal = one)}>{one}</button
      >
    {/each}
  </span>
</div>
{#if a.key === b.key}
  <p class="soft mt-3">
    {loads.length > 1
      ? "Choose two different loads."
      : "One run alone: bring in a second on Bench, or read how it stands to the forecast under Run by run."}
  </p>
{:else}
  <Faults faults={asked.faults} alert />
  {#if asked.busy}<p class="soft mt-3" role="status">Comparing …</p>{/if}
  {#if found && !asked.busy}
    <p class="say mt-3" data-testid="comparison">{found.sentence}</p>
    {#if found.parts.length}
      <section class="panel mt-2 min-w-0"><TwinTowers parts={found.parts} names={[a.name, b.name]} /></section>
      <section class="panel mt-3">
        <div class="overflow-x-auto">
          <table class="plain">
            <thead>
              <tr>
                <th>B over A</th><th>◂ cooler, none, warmer ▸</th>
                <th class="text-right">at equal watts and {found.sound ? "sound" : "speeds"}</th>
                <th class="text-right">as measured</th>
                <th class="text-right">by the model</th>
                <th>conclusion</th>
              </tr>
            </thead>
            <tbody
              >{#each found.parts as part, i (part.role)}<DifferenceRow {part} number={i + 1} {most} />{/each}</tbody
            >
          </table>
        </div>
      </section>
    {/if}
    <div class="mt-3 grid gap-3 md:grid-cols-2">
      <section class="panel">
        <h2>{found.confounded ? "More than one thing was changed: confounded" : "What differs"}</h2>
        {#if !found.changes.length}<p class="soft">Nothing that was noted.</p>{/if}
        <ul class="mt-1">
          {#each found.changes as change (change.what)}
            <li>
              {change.what}{#if change.kelvins !== null}<span class="soft"
                  >, {signed(change.kelvins)}{#if change.half_k}&nbsp;± {fixed(change.half_k)}{/if} K by the model</span
                >{/if}
            </li>
          {/each}
        </ul>
      </section>
      <section class="panel">
        <h2>Do they agree with themselves?</h2>
        {#each found.inconsistent as item (item.role + item.over)}
          <p class="mt-1"><span class="text-[var(--tight)]" aria-hidden="true">△</span> {item.says}</p>
        {:else}<p class="soft mt-1">What nothing was changed at gives the same K/W in both, as far as it was read.</p>
        {/each}
      </section>
    </div>
  {/if}
  {#if loads.length > 2}<Repeated {loads} before={a} after={b} />{/if}
{/if}
<p class="soft mt-2 text-sm">
  Kelvins over each run's own room; the band holds 90 %. Differences under 1 K count as none.
  {#if build.revision}Runs of {build.document?.name}.{/if}
</p>

<style>
  .say {
    font-size: 19px;
    font-weight: 600;
  }
</style>
