<script lang="ts">
  import { MediaQuery } from "svelte/reactivity";
  import { download, sentence, type Fault, type Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { Live } from "$lib/state/live.svelte";
  import { Runs } from "$lib/state/runs.svelte";
  import Cautions from "$lib/ui/Cautions.svelte";
  import LogDoor from "./LogDoor.svelte";
  import ReadingPad from "./ReadingPad.svelte";
  import ReadingsDoor from "./ReadingsDoor.svelte";
  import RoomTold from "./RoomTold.svelte";
  import RunView from "./RunView.svelte";
  import LiveDoor from "./LiveDoor.svelte";
  import LiveView from "./LiveView.svelte";
  import TestPlan from "./TestPlan.svelte";
  import { keepFile } from "$lib/ui/keep";
  import { clock } from "$lib/units/format";
  import type { Rooms } from "./readings";

  let { build }: { build: BuildState } = $props();
  const runs = new Runs();
  // one hand beside the machine: readings first, by a pad of large keys
  const phone = new MediaQuery("max-width: 699px");
  const DOORS = [
    ["log", "A log"],
    ["readings", "Typed readings"],
    ["live", "Live"],
  ] as const;
  let chosenDoor = $state<(typeof DOORS)[number][0] | null>(null);
  const live = new Live();
  const door = $derived(chosenDoor ?? (phone.current || build.readNext.length ? "readings" : "log"));
  let plan = $state.raw<Schemas["TestPlan"] | null>(null);
  const planned = $derived(plan?.loads.find((load) => load.workload === build.workloadId));
  let rooms = $state<Rooms>({});
  let practising = $state(false);
  let faults = $state.raw<Fault[]>([]);

  $effect(() => {
    if (!build.id) return;
    void runs.list(build.id);
    void live.list(build.id);
    return () => live.leave();
  });

  async function practise() {
    practising = true;
    await build.flush();
    const seed = 1 + Math.floor(Math.random() * 9999);
    const minutes = Math.min(Math.max(build.workload?.duration_min ?? 60, 5), 180);
    const query = `workload=${build.workloadId}&room_c=${build.room}&seed=${seed}&minutes=${minutes}`;
    const answer = await download(`/api/builds/${build.id}/practice.csv?${query}`);
    practising = false;
    faults = answer.faults ?? [];
    if (answer.text === undefined) return;
    keepFile(new Blob([answer.text], { type: "text/csv" }), `practice-${build.workloadId}.csv`);
  }

  async function kept(run: string | null) {
    live.leave();
    if (run) await arrived(run);
  }

  async function arrived(id: string) {
    await runs.list(build.id);
    await runs.view(id);
  }
</script>

<div class="flex items-baseline gap-3">
  <h1>Bench</h1>
  <p class="soft">lock fans, pump and limits; note the room at start and end</p>
</div>
{#if live.open.length > 1 || (live.open.length && !live.now)}
  <p class="mt-2 flex flex-wrap items-center gap-2" role="group" aria-label="Live runs">
    <span class="soft">Live now</span>
    {#each live.open as one (one.id)}
      <button class="button" aria-pressed={one.id === live.now?.id} onclick={() => live.view(one)}
        >{one.name || "Live run"}, begun {clock(one.created)}</button
      >
    {/each}
  </p>
{/if}
{#if live.now && !live.now.ended}
  <LiveView {live} editable={build.editable} {kept} />
{/if}
<TestPlan {build} bind:plan />
<div class="mt-2 grid gap-1.5">
  <Cautions {build} at="bench" />
</div>
{#each [...faults, ...runs.faults] as fault (fault.what)}<p class="fault" role="alert">{sentence(fault)}</p>{/each}
<section class="panel mt-3">
  <div class="flex flex-wrap items-center gap-x-3 gap-y-2">
    <div class="flex gap-1" role="tablist" aria-label="How the run comes in">
      {#each DOORS as [id, name] (id)}
        <button
          class="button"
          class:main={door === id}
          role="tab"
          aria-selected={door === id}
          onclick={() => (chosenDoor = id)}>{name}</button
        >
      {/each}
    </div>
    <span class="soft">in <strong class="text-[var(--ink)]">{build.workload?.name}</strong></span>
    {#if door !== "live" && !(phone.current && door === "readings")}<RoomTold {rooms} cards={runs.cards ?? []} />{/if}
    {#if door !== "live"}
      <button class="button" disabled={practising} onclick={practise}
        >{practising ? "Running …" : "Practice log"}</button
      >
    {/if}
  </div>
  {#if !build.revision}
    <p class="soft mt-2">A run belongs to a revision. The first run keeps the present draft as one.</p>
  {/if}
  {#if door === "log"}
    <LogDoor {build} {rooms} {arrived} />
  {:else if door === "live"}
    <LiveDoor {build} {live} minutes={planned?.minutes ?? 60} />
  {:else if phone.current}
    <ReadingPad {build} {planned} {arrived} />
  {:else}
    <ReadingsDoor {build} {rooms} {arrived} />
  {/if}
</section>
<section class="mt-3 grid gap-3 md:grid-cols-[210px_1fr]">
  <div class="panel">
    <h2>Runs</h2>
    {#if runs.cards === null}
      <p class="soft">Loading …</p>
    {:else if !runs.cards.length}
      <p class="soft">No run yet. Drop a log, type readings, or try the practice log.</p>
    {/if}
    {#each runs.cards ?? [] as card (card.id)}
      <button class="run" class:view={runs.run?.id === card.id} onclick={() => runs.view(card.id)}>
        <strong>{card.name}</strong>
        <span class="soft text-sm"
          >{card.workload}, revision {card.revision}{card.kind === "claim" ? ", a claim" : ""}</span
        >
        {#if card.said}<span class="soft said text-sm" title={card.said}>{card.said}</span>{/if}
      </button>
    {/each}
  </div>
  {#if runs.run}
    <RunView {build} {runs} />
  {:else}
    <p class="panel soft">Choose a run to see its curve, its load window and what settled.</p>
  {/if}
</section>

<style>
  .run {
    display: block;
    width: 100%;
    text-align: left;
    padding: 6px 8px;
    border-radius: 6px;
    cursor: pointer;
  }
  .run:hover,
  .run.view {
    background: var(--sunk);
  }
  .run span {
    display: block;
  }
  .said {
    overflow: hidden;
    white-space: nowrap;
    text-overflow: ellipsis;
  }
</style>
