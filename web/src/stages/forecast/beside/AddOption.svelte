<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { beside, MOST_BESIDE } from "$lib/state/beside.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import { addReadyMade, readyMade, type ReadyMade } from "$lib/document/ready";
  import NumberFields, { type FieldSpec } from "$lib/ui/NumberFields.svelte";

  /** What else stands side by side: a draft or revision of any build, the trial in view, something ready-made. */
  let { build }: { build: BuildState } = $props();
  let builds = $state.raw<Schemas["BuildCard"][]>([]);
  let other = $state("");
  let number = $state("");
  let buying = $state(false);
  let idea = $state<Omit<ReadyMade, "id"> & Record<string, unknown>>({ name: "" });
  const FIGURES: FieldSpec[] = [
    { key: "price", label: "price", low: 0, high: 1e6, width: 72 },
    { key: "height_mm", label: "height", unit: "mm", low: 1, high: 1000 },
    { key: "level_dba", label: "sound", unit: "dBA", low: 0, high: 100 },
    { key: "work_hours", label: "hours of work", unit: "h", low: 0, high: 1000 },
  ];
  const places: FieldSpec[] = $derived(
    (build.result?.places ?? []).map((place) => {
      return { key: place.address, label: place.name, unit: "K", low: 0, high: 200, width: 58 };
    }),
  );
  let over = $state<Record<string, number>>({});
  void client.GET("/api/builds").then(({ data }) => (builds = data ?? []));
  const chosen = $derived(builds.find((card) => card.id === (other || build.id)));
  const numbers = $derived(Array.from({ length: chosen?.revisions ?? 0 }, (_, i) => i + 1).reverse());
  const ready = $derived(readyMade(build.document));

  function add() {
    if (!chosen) return;
    const name = chosen.name;
    if (number) beside.put({ kind: "revision", build: chosen.id, number: Number(number), name });
    else beside.put({ kind: "draft", build: chosen.id, name });
  }

  function addTrial() {
    const document = build.trial.document;
    if (document) beside.add(build.id, { label: `Trial: ${build.trial.label}`, document });
  }

  function buy(event: SubmitEvent) {
    event.preventDefault();
    let id = "";
    build.edit(`ready-made: ${idea.name}`, (draft) => {
      id = addReadyMade(draft, { ...$state.snapshot(idea), over_room_k: $state.snapshot(over) });
    });
    beside.put({ kind: "ready", id });
    buying = false;
    idea = { name: "" };
    over = {};
  }
</script>

<div class="panel mt-3 flex flex-wrap items-center gap-x-3 gap-y-2">
  <label
    >Add
    <select
      class="field max-w-52"
      value={chosen?.id ?? ""}
      onchange={(e) => ((other = e.currentTarget.value), (number = ""))}
    >
      {#each builds as card (card.id)}<option value={card.id}>{card.name}</option>{/each}
    </select></label
  >
  <select class="field" aria-label="Which state of it" bind:value={number}>
    <option value="">draft</option>
    {#each numbers as n (n)}<option value={String(n)}>revision {n}</option>{/each}
  </select>
  <button class="button main" disabled={beside.full || !chosen} onclick={add}>Put it side by side</button>
  {#if build.trial.document}<button class="button" disabled={beside.full} onclick={addTrial}>The trial in view</button
    >{/if}
  {#each ready.filter((item) => !beside.entries.some((e) => e.kind === "ready" && e.id === item.id)) as item (item.id)}
    <button class="button" disabled={beside.full} onclick={() => beside.put({ kind: "ready", id: item.id })}
      >{item.name}</button
    >
  {/each}
  <button
    class="button"
    aria-expanded={buying}
    disabled={beside.full || !build.editable}
    onclick={() => (buying = !buying)}>Buy ready-made …</button
  >
  {#if beside.full}<span class="soft">{MOST_BESIDE} are the most on one page</span>{/if}
  {#if buying}
    <form class="buy" onsubmit={buy} aria-label="Ready-made">
      <label
        >What <input
          class="field w-56"
          bind:value={idea.name}
          required
          maxlength="120"
          placeholder="class and figures, no maker"
        /></label
      >
      <NumberFields fields={FIGURES} values={idea} onchange={(key, value) => (idea[key] = value)} />
      <span class="soft w-full"
        >Stated over the room in {build.workload?.name || build.workloadId}; leave what nobody states:</span
      >
      <NumberFields fields={places} values={over} onchange={(key, value) => (over[key] = value)} />
      <button class="button main">Add it</button>
    </form>
  {/if}
</div>

<style>
  .buy {
    flex-basis: 100%;
    display: flex;
    flex-wrap: wrap;
    gap: 8px 16px;
    align-items: center;
    border-top: 1px solid var(--line);
    padding-top: 8px;
  }
</style>
