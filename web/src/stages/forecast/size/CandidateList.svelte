<script lang="ts">
  import type { Result, Studies } from "$lib/state/study.svelte";
  import { fixed, level } from "$lib/units/format";
  import { wordsOf } from "./filter";

  /** Candidates as rows: the best of the figures shown, all trade-offs, or every one in view that meets the demands. */
  let { studies, result, shown, best }: { studies: Studies; result: Result; shown: number[]; best: number[] } =
    $props();
  const MOST = 60;
  type Which = "best" | "trade-offs" | "all";
  type Sort = "level_dba" | "margin_k" | "height_mm" | "price" | "left_mm";
  let which = $state<Which>("best");
  /** as numbered on the dots, until somebody sorts */
  let sort = $state<Sort | null>(null);
  const inView = $derived(new Set(shown));
  const front = $derived(new Set(result.undominated));
  const of: Record<Which, number[]> = $derived({ best, "trade-offs": result.undominated, all: result.meets });
  const WHICH: [Which, string][] = $derived([
    ["best", `The best ${best.length} of these figures`],
    ["trade-offs", `All ${result.undominated.length} that nothing beats`],
    ["all", `All ${result.meets.length} that meet the demands`],
  ]);
  const rows = $derived.by(() => {
    const listed = of[which].filter((number) => inView.has(number));
    const by = sort ?? (which === "best" ? null : "level_dba");
    if (!by) return listed;
    const sign = by === "margin_k" || by === "left_mm" ? -1 : 1;
    const value = (number: number) => sign * (result.columns[by]?.[number] ?? Infinity);
    return [...listed].sort((a, b) => value(a) - value(b));
  });
  const HEADS: [Sort, string][] = [
    ["margin_k", "margin"],
    ["level_dba", "sound"],
    ["height_mm", "stack"],
    ["price", "price"],
    ["left_mm", "left in slot"],
  ];
  const isColumn = (key: Sort) => (key === "price" ? priced : key !== "left_mm" || slotted);
  const priced = $derived(result.columns["price"]?.some((v) => v !== null));
  const slotted = $derived(result.columns["left_mm"]?.some((v) => v !== null));
</script>

<section class="panel mt-3" aria-label="Candidates as a list">
  <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
    <h2>{which === "all" ? "All that meet every demand" : "Best trade-offs"}</h2>
    <span class="soft">{rows.length} in view</span>
    <span class="grow"></span>
    <select class="field" aria-label="Candidates listed" bind:value={which}>
      {#each WHICH as [id, label] (id)}<option value={id}>{label}</option>{/each}
    </select>
  </div>
  {#if rows.length}
    <div class="overflow-x-auto">
      <table class="plain" data-testid="candidates">
        <thead>
          <tr>
            <th>candidate</th>
            {#each HEADS.filter(([key]) => isColumn(key)) as [key, name] (key)}
              <th class="text-right"
                ><button class="head" aria-pressed={sort === key} onclick={() => (sort = key)}>{name}</button></th
              >
            {/each}
            <th></th>
          </tr>
        </thead>
        <tbody>
          {#each rows.slice(0, MOST) as number (number)}
            <tr class:on={studies.chosen === number}>
              <td>
                <span class="flex items-baseline gap-2">
                  {#if best.includes(number)}<b class="num">{best.indexOf(number) + 1}</b>{/if}
                  <button class="words" onclick={() => studies.choose(number)}>{wordsOf(studies, number)}</button>
                </span>
              </td>
              <td class="num figure">{fixed(result.columns["margin_k"]?.[number])} K</td>
              <td class="num figure">{level(result.columns["level_dba"]?.[number])}</td>
              <td class="num figure">{fixed(result.columns["height_mm"]?.[number], 0)} mm</td>
              {#if priced}<td class="num figure">{fixed(result.columns["price"]?.[number], 0)}</td>{/if}
              {#if slotted}<td class="num figure">{fixed(result.columns["left_mm"]?.[number])} mm</td>{/if}
              <td class="text-right whitespace-nowrap">
                {#if front.has(number) && which === "all"}<span class="soft mr-2 text-sm">best trade-off</span>{/if}
                <button
                  class="button small"
                  disabled={studies.chosen === number}
                  onclick={() => studies.beside(studies.second?.number === number ? null : number)}
                  >{studies.second?.number === number ? "Remove from comparison" : "Beside"}</button
                >
              </td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
    {#if rows.length > MOST}<p class="soft text-sm">The first {MOST}; the CSV holds all.</p>{/if}
  {:else}
    <p class="soft">
      {result.meets.length
        ? "None in view: widen the rectangle or switch options on again."
        : "None meets every demand. The one that comes closest is shown beside the dots; ask less of it, or vary more."}
    </p>
  {/if}
</section>

<style>
  tr.on td {
    background: var(--sunk);
  }
  .words {
    text-align: left;
    cursor: pointer;
    font-size: 14px;
    line-height: 1.3;
  }
  .words:hover {
    text-decoration: underline;
  }
  td,
  th {
    padding: 4px 6px !important;
  }
  .figure {
    font-size: 14px;
    text-align: right;
    white-space: nowrap;
  }
  .small {
    padding: 1px 9px;
    font-size: 13px;
  }
  .head {
    cursor: pointer;
    text-decoration: underline;
  }
  .head[aria-pressed="true"] {
    color: var(--ink);
  }
</style>
