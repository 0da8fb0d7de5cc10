<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import type { AskedFrom } from "$lib/api/place";
  import { Asked } from "$lib/state/asked.svelte";
  import { beside, type Entry } from "$lib/state/beside.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import { type BuildDocument, opened } from "$lib/document/build";
  import { readyMade, type ReadyMade } from "$lib/document/ready";
  import Faults from "$lib/ui/Faults.svelte";
  import AddOption from "./AddOption.svelte";
  import BesideTable from "./BesideTable.svelte";
  import MiniTerraces from "./MiniTerraces.svelte";
  import WhatDiffers from "./WhatDiffers.svelte";

  /** Two to five options on one page: terraces on one scale, every part, what each measures, what differs. */
  let { build }: { build: BuildState } = $props();
  const PAUSE_MS = 250;
  type Column = { entry: Entry; label: string; beside: Schemas["Beside"] | null; ready: ReadyMade | null };
  /** The options as they were solved, and which entries they are of, in their order. */
  type Solved = { found: Schemas["SideBySide"] | null; entries: Entry[] };
  const asked = new Asked<Solved>();
  const answer = $derived(asked.answer?.found ?? null);

  $effect(() => beside.open(build.id, build.document?.name ?? ""));

  const labelOf = (entry: Entry) =>
    entry.kind === "draft"
      ? `${entry.name}, draft`
      : entry.kind === "revision"
        ? `${entry.name}, revision ${entry.number}`
        : entry.kind === "copy"
          ? entry.label
          : (ready.find((item) => item.id === entry.id)?.name ?? entry.id);
  const ready = $derived(readyMade(build.document));

  async function documentOf(entry: Entry): Promise<BuildDocument | null> {
    if (entry.kind === "copy") return entry.document;
    if (entry.kind === "ready") return null;
    if (entry.kind === "draft" && entry.build === build.id) return build.document;
    const path = { build_id: entry.build };
    const { data } =
      entry.kind === "draft"
        ? await client.GET("/api/builds/{build_id}", { params: { path } })
        : await client.GET("/api/builds/{build_id}/revisions/{number}", {
            params: { path: { ...path, number: entry.number } },
          });
    return data ? opened(data.document) : null;
  }

  async function solve(as: AskedFrom, entries: Entry[], workload: string, room_c: number | null) {
    const documents = await Promise.all(entries.map(documentOf));
    const known = entries.flatMap((entry, i) => (documents[i] ? [{ entry, document: documents[i] }] : []));
    if (!known.length) return { data: { found: null, entries: [] } };
    const options = known.map(({ entry, document }) => ({ label: labelOf(entry), document }));
    const { data, error } = await client.POST("/api/side-by-side", { ...as, body: { options, workload, room_c } });
    return data ? { data: { found: data, entries: known.map(({ entry }) => entry) } } : { error };
  }

  $effect(() => {
    const entries = beside.entries;
    const workload = build.workloadId;
    const room_c = build.roomC;
    if (!build.document || !workload) return;
    return asked.ask((as) => solve(as, entries, workload, room_c), PAUSE_MS);
  });

  const columns: Column[] = $derived(
    beside.entries.map((entry) => ({
      entry,
      label: labelOf(entry),
      beside: answer?.options[asked.answer?.entries.indexOf(entry) ?? -1] ?? null,
      ready: entry.kind === "ready" ? (ready.find((item) => item.id === entry.id) ?? null) : null,
    })),
  );
  const results = $derived(columns.flatMap((column) => (column.beside ? [column.beside.result] : [])));
  const places = $derived([
    ...new Map(results.flatMap((result) => result.places.map((place) => [place.address, place.name] as const))),
  ]);
  const numbers = $derived(Object.fromEntries(places.map(([address], i) => [address, i + 1])));
  const room = $derived(answer?.room_c ?? build.room);
  const highest = $derived(
    Math.max(
      20,
      ...results.flatMap((r) => r.places.map((p) => Math.max(p.temperature_c, p.limit_c ?? 0) - r.room_c)),
      ...columns.flatMap((column) => Object.values(column.ready?.over_room_k ?? {})),
    ),
  );
</script>

<AddOption {build} />
<Faults faults={asked.faults} alert />
<section class="panel mt-3" class:asking={asked.busy} aria-busy={asked.busy} aria-label="Side by side">
  <div class="columns" style:grid-template-columns="repeat({columns.length}, minmax(0, 1fr))">
    {#each columns as column, at (at)}
      <div class="column" data-testid="option">
        <p class="head">
          <strong>{column.label}</strong>
          <button aria-label="Take {column.label} off the page" onclick={() => beside.remove(at)}>×</button>
        </p>
        {#if column.beside?.result.no_state}<p class="fault">{column.beside.result.no_state.what}</p>{/if}
        <MiniTerraces result={column.beside?.result ?? null} ready={column.ready} {highest} {room} {numbers} />
      </div>
    {/each}
  </div>
  {#if asked.busy && !answer}<p class="soft" role="status">Solving each …</p>{/if}
  <BesideTable {columns} {places} {room} />
  {#if columns.length < 2}<p class="soft mt-2">
      Add a second option above: a revision, another build, something ready-made.
    </p>{/if}
</section>
<WhatDiffers {columns} />

<style>
  .columns {
    display: grid;
    gap: 14px;
  }
  .head {
    display: flex;
    justify-content: space-between;
    gap: 6px;
    min-height: 2.6em;
  }
  .head button {
    color: var(--soft);
    cursor: pointer;
    padding: 0 5px;
    align-self: start;
  }
</style>
