<script lang="ts">
  import { client, faultsOf, type Fault } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { parseNumber } from "$lib/units/format";
  import Faults from "$lib/ui/Faults.svelte";
  import ReadingRow from "./ReadingRow.svelte";
  import { keepReadings, readable, type Reading, type Rooms, type Row } from "./readings";

  let { build, rooms, arrived }: { build: BuildState; rooms: Rooms; arrived: (id: string) => Promise<void> } = $props();
  const EXAMPLE = "idle processor 34\n60 min\nprocessor 78 °C\ngraphics 71 max\nroom 24.5";
  const choices = $derived(readable(build));
  const places = $derived(build.result?.places ?? []);
  const fresh = (index: number): Row => ({
    minute: "60",
    role: build.readNext[index] ?? `${places[index % Math.max(places.length, 1)]?.address ?? ""}/temperature`,
    kind: "now",
    value: "",
    word: "",
    load: "on",
    after: "10",
  });
  let rows = $state<Row[]>([]);
  let faults = $state.raw<Fault[]>([]);
  let pasting = $state(false);
  let pasted = $state("");
  let refused = $state.raw<string[]>([]);
  let claiming = $state(false);
  let source = $state("");
  const filled = $derived(rows.filter((row) => row.value.trim() || row.word));

  $effect(() => {
    if (!rows.length && places.length) rows = [0, 1, 2, 3, 4, 5].map(fresh);
  });

  const noNumber = (text: string): Fault => ({
    where: "readings",
    what: `'${text}' is no number`,
    allowed: "numbers with comma or point",
  });

  function told(row: Row): Reading | Fault {
    const [minute, value, after] = [row.minute, row.value, row.after].map(parseNumber);
    if (minute == null) return noNumber(row.minute);
    if (!row.word && value == null) return noNumber(row.value);
    if (row.load === "after" && after == null) return noNumber(row.after);
    return {
      minute: row.load === "before" ? 0 : minute,
      role: row.role,
      kind: row.kind,
      value: row.word ? null : value!,
      word: row.word || null,
      load_on: row.load === "on",
      after_s: row.load === "after" ? after : null,
    };
  }

  async function keep() {
    const readings: Reading[] = [];
    for (const row of filled) {
      const found = told(row);
      if ("where" in found) {
        faults = [found];
        return;
      }
      readings.push(found);
    }
    const { id, faults: found } = await keepReadings(build, readings, rooms, claiming ? source || "not said" : "");
    faults = found;
    if (id) {
      build.readNext = [];
      rows = [];
      await arrived(id);
    }
  }

  async function readLines() {
    const { data, error } = await client.POST("/api/builds/{build_id}/runs/pasted", {
      params: { path: { build_id: build.id } },
      body: { text: pasted },
    });
    faults = data ? [] : faultsOf(error);
    if (!data) return;
    refused = data.refused;
    if (!data.readings.length) return;
    rows = data.readings.map((reading) => ({
      minute: String(reading.minute),
      role: reading.role,
      kind: reading.kind ?? "now",
      value: reading.value == null ? "" : String(reading.value),
      word: reading.word ?? "",
      load: reading.after_s != null ? "after" : reading.load_on === false ? "before" : "on",
      after: String(reading.after_s ?? 10),
    }));
    pasted = "";
    pasting = false;
  }
</script>

<div class="overflow-x-auto">
  <table class="plain mt-2">
    <thead
      ><tr><th>Minute</th><th>What</th><th>Read as</th><th>Figure</th><th>While the load was</th><th></th></tr></thead
    >
    <tbody>
      {#each rows as row, i (i)}
        <ReadingRow {row} number={i + 1} {choices} remove={() => rows.splice(i, 1)} />
      {/each}
    </tbody>
  </table>
</div>
<p class="mt-2 flex flex-wrap items-center gap-3">
  <button class="button" onclick={() => rows.push(fresh(rows.length))}>One more reading</button>
  <button class="button" aria-expanded={pasting} onclick={() => (pasting = !pasting)}>Paste lines …</button>
  <label class="flex items-center gap-1.5"
    ><input type="checkbox" bind:checked={claiming} />somebody else's figures</label
  >
  {#if claiming}<input
      class="field w-56"
      aria-label="Where the figures are from"
      placeholder="data sheet, letter, page"
      maxlength="200"
      bind:value={source}
    />{/if}
  <button class="button main" disabled={!filled.length || !build.editable} onclick={keep}
    >Keep {filled.length} {filled.length === 1 ? "reading" : "readings"}</button
  >
</p>
{#if pasting}
  <div class="mt-2 grid gap-2">
    <textarea class="field h-28 w-full" aria-label="Lines of readings" placeholder={EXAMPLE} bind:value={pasted}
    ></textarea>
    <div class="flex items-center gap-3">
      <button class="button" disabled={!pasted.trim()} onclick={readLines}>Read the lines</button>
      <span class="soft text-sm">one reading a line; a minute holds for the lines below it</span>
    </div>
  </div>
{/if}
{#each refused as line, i (i)}<p class="soft text-sm">{line}</p>{/each}
<Faults {faults} alert />
