<script lang="ts">
  import { opened, replaceBy } from "$lib/document/build";
  import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { statusColour } from "$lib/ui/status";
  import { day, fixed, signed } from "$lib/units/format";
  import Faults from "$lib/ui/Faults.svelte";
  import Events from "./Events.svelte";
  import RevisionRuns from "./RevisionRuns.svelte";
  import Sharing from "./Sharing.svelte";
  import TimeLine from "./TimeLine.svelte";

  let { build }: { build: BuildState } = $props();
  type Row = {
    workload: string;
    name: string;
    no_state?: string | null;
    places: { address: string; name: string; temperature_c: number; margin_k: number | null; status: string }[];
  };
  let revisions = $state.raw<Schemas["RevisionOut"][] | null>(null);
  let why = $state("");
  let faults = $state.raw<Fault[]>([]);
  let cards = $state.raw<Schemas["RunCard"][]>([]);
  let measured = $state.raw<Schemas["MeasuredChange"][]>([]);

  async function load() {
    const path = { build_id: build.id };
    const { data, error } = await client.GET("/api/builds/{build_id}/revisions", { params: { path } });
    revisions = data ?? [];
    if (!data) faults = faultsOf(error);
    cards = (await client.GET("/api/builds/{build_id}/runs", { params: { path } })).data ?? [];
    if (cards.length)
      measured = (await client.GET("/api/builds/{build_id}/measured-changes", { params: { path } })).data ?? [];
  }
  $effect(() => {
    if (build.id) void load();
  });

  async function keep(event: SubmitEvent) {
    event.preventDefault();
    faults = await build.keepRevision(why);
    if (!faults.length) {
      why = "";
      await load();
    }
  }

  async function takeBack(number: number) {
    const { data } = await client.GET("/api/builds/{build_id}/revisions/{number}", {
      params: { path: { build_id: build.id, number } },
    });
    if (data) build.edit(`back to revision ${number}`, (draft) => replaceBy(draft, opened(data.document)));
  }

  type Mattered = { place: string; workload: string; won_k: number; changes: { says: string; won_k: number }[] };
  /** What the changes since the revision before did, each by itself and all together. */
  const mattered = (revision: Schemas["RevisionOut"]) =>
    (revision.summary as { mattered?: Mattered | null }).mattered ?? null;

  const tightest = (revision: Schemas["RevisionOut"]) => {
    const rows = (revision.summary as { workloads: Row[] }).workloads;
    return rows.map((row) => ({
      name: row.name,
      no_state: row.no_state ?? null,
      place: [...row.places].sort((a, b) => (a.margin_k ?? 999) - (b.margin_k ?? 999))[0],
    }));
  };
</script>

<div class="flex items-baseline gap-3">
  <h1>Logbook</h1>
  <p class="soft">what changed, why, and what it did in kelvins</p>
  <span class="grow"></span>
  <a class="button" href={`#/build/${build.id}/report`}>Report to print</a>
  <a class="button" href={`/api/builds/${build.id}/document`} download="{build.document?.name}.krill.json"
    >Build as JSON</a
  >
  <a class="button" href={`/api/builds/${build.id}/archive.zip`} download="{build.document?.name}.zip"
    >Everything as an archive</a
  >
</div>
{#if build.editable}
  <form class="panel mt-3 flex items-center gap-3" onsubmit={keep}>
    <label class="flex grow items-center gap-2"
      >Save as revision {(build.revision ?? 0) + 1}. Why?
      <input class="field grow" bind:value={why} required maxlength="300" placeholder="one line of why" /></label
    >
    <button class="button main" disabled={!build.changed}>Save revision</button>
  </form>
{/if}
<Faults {faults} alert />
{#if revisions === null}
  <p class="soft mt-4">Loading …</p>
{:else if !revisions.length}
  <p class="soft mt-4">No revision yet. A revision freezes the draft so that a run can be held against it.</p>
{:else}
  <ol class="line mt-3">
    {#each [...revisions].reverse() as revision (revision.number)}
      <li class="panel">
        <div class="flex flex-wrap items-baseline gap-3">
          <h2>Revision {revision.number}</h2>
          <span>{revision.why}</span>
          <span class="grow"></span>
          <span class="soft text-sm">{revision.author}, {day(revision.created)}, core {revision.core_version}</span>
          {#if build.editable}<button class="button text-sm" onclick={() => takeBack(revision.number)}
              >Restore as draft</button
            >{/if}
        </div>
        <p class="mt-1 flex flex-wrap gap-x-6">
          {#each tightest(revision) as { name, place, no_state }, i (i)}
            {#if place}<span
                ><span class="soft">{name}:</span>
                {place.name} <span class="num">{fixed(place.temperature_c)} °C</span>
                <span class="num" style:color={statusColour(place.status)}>{signed(place.margin_k)} K</span></span
              >{:else if no_state}<span><span class="soft">{name}:</span> <span class="fault">{no_state}</span></span
              >{/if}
          {/each}
        </p>
        {#if mattered(revision)}
          {@const did = mattered(revision)!}
          <p class="mt-1 flex flex-wrap gap-x-6" data-testid="mattered">
            <span
              ><span
                class="num"
                style:color={Math.abs(did.won_k) < 0.05
                  ? "var(--soft)"
                  : did.won_k > 0
                    ? "var(--holds)"
                    : "var(--too-hot)"}>{signed(-did.won_k)} K</span
              >
              on {did.place} in {did.workload}{did.changes.length ? ", by itself:" : ""}</span
            >
            {#each did.changes as change (change.says)}
              <span>{change.says} <span class="num">{signed(-change.won_k)} K</span></span>
            {/each}
          </p>
        {/if}
        <RevisionRuns
          buildId={build.id}
          cards={cards.filter((card) => card.revision === revision.number)}
          changes={measured.filter((change) => change.revision === revision.number)}
        />
        {#if revision.changes.length}
          <details class="mt-1">
            <summary class="soft cursor-pointer"
              >{revision.changes.length}
              {revision.changes.length === 1 ? "figure" : "figures"} changed</summary
            >
            <ul class="num text-sm">
              {#each revision.changes as change, i (i)}<li>{change}</li>{/each}
            </ul>
          </details>
        {/if}
      </li>
    {/each}
  </ol>
{/if}
{#if revisions}<TimeLine {build} {revisions} runs={cards} />{/if}
<Sharing {build} />
<Events {build} />

<style>
  .line {
    display: grid;
    gap: 8px;
    border-left: 3px solid var(--line);
    padding-left: 12px;
  }
</style>
