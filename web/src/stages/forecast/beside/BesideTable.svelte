<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import type { ReadyMade } from "$lib/document/ready";
  import { statusColour } from "$lib/ui/status";
  import StatusMark from "$lib/ui/StatusMark.svelte";
  import { fixed, half, level, signed } from "$lib/units/format";
  import { STATUS, toneOf } from "$lib/ui/tones";

  /** Every part of every option, then what each measures. Unknown stays unknown. */
  type Column = { label: string; beside: Schemas["Beside"] | null; ready: ReadyMade | null };
  let { columns, places, room }: { columns: Column[]; places: (readonly [string, string])[]; room: number } = $props();
  const NONE_K = 1;
  const placeOf = (column: Column, address: string) => column.beside?.result.places.find((p) => p.address === address);
  const stated = (column: Column, address: string) => {
    const over = column.ready?.over_room_k?.[address];
    return over === undefined ? null : room + over;
  };
  const first = $derived(columns.find((column) => column.beside));
  const slotOf = (column: Column, address: string) =>
    column.beside?.measures.slots.find((slot) => slot.address === address);
  const slots = $derived([
    ...new Map(
      columns.flatMap((c) => c.beside?.measures.slots ?? []).map((slot) => [slot.address, slot.name] as const),
    ),
  ]);
  type Row = [string, (c: Column) => number | null | undefined, number, string];
  const rows: Row[] = [
    ["Sound", (c) => c.beside?.result.sound.total_dba ?? c.ready?.level_dba, 1, "dBA"],
    ["Stack", (c) => (c.beside ? c.beside.measures.height_mm : c.ready?.height_mm), 0, "mm"],
    ["Heat", (c) => c.beside?.result.power_w ?? c.ready?.power_w, 0, "W"],
    ["Mass stated", (c) => (c.beside ? c.beside.measures.mass_g : c.ready?.mass_g), 0, "g"],
    ["Price", (c) => (c.beside ? c.beside.measures.price : c.ready?.price), 0, ""],
    ["Energy a year", (c) => c.beside?.energy_a_year, 0, ""],
    ["Hours of work", (c) => (c.beside ? c.beside.measures.work_hours : c.ready?.work_hours), 0, "h"],
  ];
  const notes = (column: Column, row: string) =>
    row === "Price" && column.beside?.measures.price != null && column.beside.measures.unpriced
      ? `${column.beside.measures.unpriced} parts have no price`
      : row === "Mass stated" && column.beside?.measures.mass_g != null && column.beside.measures.unweighed
        ? `${column.beside.measures.unweighed} parts not weighed`
        : "";
</script>

<table class="plain mt-3" data-testid="beside-table">
  <thead class="sr-only"
    ><tr
      ><th>part</th>{#each columns as column, i (i)}<th>{column.label}</th>{/each}</tr
    ></thead
  >
  <tbody>
    {#each places as [address, name], number (address)}
      <tr>
        <th scope="row"><span class="soft num">{number + 1}</span> {name}</th>
        {#each columns as column, i (i)}
          {@const place = placeOf(column, address)}
          {@const base = first ? placeOf(first, address) : undefined}
          <td>
            {#if place}
              <span class="num strong">{fixed(place.temperature_c)} °C</span>
              <span class="soft text-sm">± {fixed(half(place.band_c))}</span>
              <span style:color={statusColour(place.status)}><StatusMark status={place.status} size={12} /></span>
              {#if column !== first && base}
                <span class="soft num text-sm"
                  >{Math.abs(place.temperature_c - base.temperature_c) < NONE_K
                    ? "none"
                    : `${signed(place.temperature_c - base.temperature_c)} K`}</span
                >
              {/if}
            {:else if stated(column, address) !== null}
              <span class="num strong">{fixed(stated(column, address))} °C</span>
              <span class="soft text-sm">as stated</span>
            {:else}<span class="soft">–</span>{/if}
          </td>
        {/each}
      </tr>
    {/each}
    {#each slots as [address, name] (address)}
      <tr class="sum">
        <th scope="row">Left in {name}</th>
        {#each columns as column, i (i)}
          {@const slot = slotOf(column, address)}
          <td>
            {#if slot?.left_mm == null}<span class="soft">{slot ? "unknown" : "–"}</span>
            {:else}
              <span class="num">{fixed(slot.left_mm)}</span>
              <span class="soft">± {fixed(slot.half_mm)} mm</span>
              <StatusMark status={STATUS[toneOf(slot.says)]} size={12} />
              {#if slot.says === "does not fit"}<span class="text-sm">does not go in</span>{/if}
            {/if}
          </td>
        {/each}
      </tr>
    {/each}
    {#each rows as [name, value, decimals, unit] (name)}
      <tr class="sum">
        <th scope="row">{name}</th>
        {#each columns as column, i (i)}
          {@const found = value(column)}
          <td>
            {#if found === null || found === undefined}<span class="soft">unknown</span>
            {:else if name === "Sound"}<span class="num">{level(found)}</span>
            {:else}<span class="num">{fixed(found, decimals)}</span> <span class="soft">{unit}</span>{/if}
            {#if notes(column, name)}<span class="soft text-sm">{notes(column, name)}</span>{/if}
          </td>
        {/each}
      </tr>
    {/each}
  </tbody>
</table>

<style>
  table {
    table-layout: fixed;
  }
  th[scope="row"] {
    color: var(--ink);
    font-size: 14px;
    width: 150px;
  }
  td:first-of-type {
    border-left: none;
  }
  .strong {
    font-weight: 650;
  }
  .sum th,
  .sum td {
    background: color-mix(in srgb, var(--sunk) 45%, transparent);
  }
</style>
