<script lang="ts">
  import type { Fault, Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { parseNumber } from "$lib/units/format";
  import Faults from "$lib/ui/Faults.svelte";
  import { keepReadings, readable } from "./readings";

  let {
    build,
    roomStart,
    roomEnd,
    arrived,
  }: { build: BuildState; roomStart?: number; roomEnd?: number; arrived: (id: string) => Promise<void> } = $props();
  type Row = { minute: string; role: string; kind: "now" | "highest" | "mean"; value: string; on: boolean };
  const choices = $derived(readable(build));
  const unitOf = (role: string) => choices.find((one) => one.role === role)?.unit ?? "";
  const places = $derived(build.result?.places ?? []);
  const fresh = (index: number): Row => ({
    minute: "60",
    role: `${places[index % Math.max(places.length, 1)]?.address ?? ""}/temperature`,
    kind: "now",
    value: "",
    on: true,
  });
  let rows = $state<Row[]>([]);
  let faults = $state.raw<Fault[]>([]);
  const filled = $derived(rows.filter((row) => row.value.trim()));

  $effect(() => {
    if (!rows.length && places.length) rows = [0, 1, 2, 3, 4, 5].map(fresh);
  });

  async function keep() {
    const readings: Schemas["ReadingIn"][] = [];
    for (const row of filled) {
      const minute = parseNumber(row.minute);
      const value = parseNumber(row.value);
      if (minute === null || value === null) {
        faults = [
          {
            where: "readings",
            what: `'${minute === null ? row.minute : row.value}' is no number`,
            allowed: "numbers with comma or point",
          },
        ];
        return;
      }
      readings.push({ minute, value, role: row.role, kind: row.kind, load_on: row.on });
    }
    const { id, faults: found } = await keepReadings(build, readings, { start: roomStart, end: roomEnd });
    faults = found;
    if (id) {
      rows = [];
      await arrived(id);
    }
  }
</script>

<table class="plain mt-2">
  <thead><tr><th>Minute</th><th>What</th><th>Read as</th><th>Figure</th><th>Load still on</th><th></th></tr></thead>
  <tbody>
    {#each rows as row, i (i)}
      <tr>
        <td><input class="field num w-16" aria-label="minute {i + 1}" bind:value={row.minute} inputmode="decimal" /></td
        >
        <td>
          <select class="field" aria-label="part {i + 1}" bind:value={row.role}>
            {#each choices as { role, name } (role)}<option value={role}>{name}</option>{/each}
          </select>
        </td>
        <td>
          <select class="field" aria-label="kind {i + 1}" bind:value={row.kind}>
            <option value="now">now</option><option value="highest">highest shown</option><option value="mean"
              >mean</option
            >
          </select>
        </td>
        <td
          ><input
            class="field num w-20 text-right"
            aria-label="figure {i + 1}"
            bind:value={row.value}
            inputmode="decimal"
          /> <span class="soft">{unitOf(row.role)}</span></td
        >
        <td><input type="checkbox" aria-label="load on {i + 1}" bind:checked={row.on} /></td>
        <td
          ><button class="button text-sm" aria-label="remove reading {i + 1}" onclick={() => rows.splice(i, 1)}
            >remove</button
          ></td
        >
      </tr>
    {/each}
  </tbody>
</table>
<p class="mt-2 flex items-center gap-3">
  <button class="button" onclick={() => rows.push(fresh(rows.length))}>One more reading</button>
  <button class="button main" disabled={!filled.length || !build.editable} onclick={keep}
    >Keep {filled.length} readings</button
  >
  {#if roomStart === undefined || roomEnd === undefined}<span class="soft"
      >two room figures judge most sharply, one is enough; without any the room is taken from the readings, best with
      one of minute 0 before the load</span
    >{/if}
</p>
<Faults {faults} alert />
