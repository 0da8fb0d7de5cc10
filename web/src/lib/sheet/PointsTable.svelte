<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Part } from "$lib/document/build";
  import { pastedRows, rowsOfPart, storePoints, tableOf, wrongWith, type Row } from "$lib/document/points";
  import { parseNumber } from "$lib/units/format";

  /** Measured points of a radiator, cooler, fan or pump: typed cell by cell, or pasted from a sheet. */
  let { build, part }: { build: BuildState; part: Part } = $props();
  const table = $derived(tableOf(part.kind));
  const stored = $derived(table ? rowsOfPart(part, table) : []);
  /** rows being typed, until they make sense and are stored */
  let typed = $state.raw<Row[] | null>(null);
  const rows = $derived(typed ?? stored);
  const wrong = $derived(table ? wrongWith(rows, table) : "");
  $effect(() => {
    if (part.id) typed = null;
  });

  function take(next: Row[]) {
    typed = next;
    if (!table || wrongWith(next, table)) return;
    const [id, own] = [part.id, table];
    build.edit(`points of ${part.name || id}`, (draft) => storePoints(draft, id, own, next));
    typed = null;
  }

  const cell = (row: number, column: number, text: string) =>
    take(rows.map((cells, i) => (i === row ? cells.map((old, j) => (j === column ? parseNumber(text) : old)) : cells)));

  const more = () => (typed = [...rows, table!.columns.map(() => null)]);
  const less = (row: number) => take(rows.filter((_, i) => i !== row));

  function paste(event: ClipboardEvent, row: number) {
    const found = pastedRows(event.clipboardData?.getData("text") ?? "", table!.columns.length);
    if (found.length < 2 && found[0]?.slice(1).every((value) => value === null)) return;
    event.preventDefault();
    take([...rows.slice(0, row), ...found, ...rows.slice(row + found.length)]);
  }
</script>

{#if table}
  <details class="mt-2" open={rows.length > 0}>
    <summary class="cursor-pointer font-semibold"
      >Measured points{rows.length ? `, ${rows.length}` : ": none, its class counts"}</summary
    >
    <p class="soft text-sm">{table.says}. Several cells can be pasted at once.</p>
    {#if rows.length}
      <table class="plain" aria-label="Measured points of {part.name || part.id}">
        <thead>
          <tr>
            {#each table.columns as column (column.key)}<th
                >{column.label}<br /><span class="soft">{column.unit}</span></th
              >{/each}
            <th><span class="sr-only">Take out</span></th>
          </tr>
        </thead>
        <tbody>
          {#each rows as row, i (i)}
            <tr>
              {#each table.columns as column, j (column.key)}
                <td
                  ><input
                    class="field num w-full text-right"
                    inputmode="decimal"
                    aria-label="{column.label}, point {i + 1}"
                    value={row[j] ?? ""}
                    disabled={!build.editable}
                    onchange={(event) => cell(i, j, event.currentTarget.value)}
                    onpaste={(event) => paste(event, i)}
                  /></td
                >
              {/each}
              <td
                ><button
                  class="button"
                  aria-label="Take point {i + 1} out"
                  disabled={!build.editable}
                  onclick={() => less(i)}>×</button
                ></td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    {/if}
    {#if wrong}<p class="fault" role="alert">{wrong}; not stored yet</p>{/if}
    <div class="mt-1 flex gap-2">
      <button class="button" disabled={!build.editable} onclick={more}>Add a point</button>
      {#if rows.length}<button class="button" disabled={!build.editable} onclick={() => take([])}
          >Back to its class</button
        >{/if}
    </div>
  </details>
{/if}

<style>
  td {
    padding: 2px 3px;
  }
  th {
    font-weight: 600;
    line-height: 1.2;
  }
</style>
