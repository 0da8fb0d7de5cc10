<script lang="ts">
  import { addDue } from "$lib/document/order";
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Marks } from "$lib/state/marks.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { day, midnight } from "$lib/units/format";
  import type { Sheet } from "./sheet";

  /** What is due when, with its spread, counted from when it was last done or the machine was closed. */
  let { build, sheet, marks, now }: { build: BuildState; sheet: Sheet; marks: Marks; now: number } = $props();
  const DAY_MS = 86_400_000;
  const closed = $derived(
    marks.standing.get("close-panels")?.kind === "done" ? marks.standing.get("close-panels") : null,
  );
  let all = $state(false);
  let what = $state("");
  let days = $state<number | undefined>(undefined);

  function dueAt(due: Sheet["care"][number]): number {
    const last = marks.all.filter((mark) => mark.kind === "cared" && mark.about === due.id).at(-1);
    if (due.next_on && !last) return midnight(due.next_on).getTime();
    const since = last ? Date.parse(last.at) : closed ? Date.parse(closed.at) : now;
    return since + due.days * DAY_MS;
  }
  const rows = $derived(sheet.care.map((due) => ({ due, at: dueAt(due) })).sort((a, b) => a.at - b.at));
  const shown = $derived(all ? rows : rows.slice(0, 5));
  const spread = (early: number, late: number) =>
    late > 3 * 365
      ? `${(early / 365).toFixed(1)} to ${(late / 365).toFixed(1)} years`
      : `${Math.round(early)} to ${Math.round(late)} days`;

  function add(event: SubmitEvent) {
    event.preventDefault();
    if (!days || !what.trim()) return;
    build.edit(`${what.trim()} is due`, (draft) => addDue(draft, what.trim(), days!, null));
    what = "";
    days = undefined;
  }
</script>

<section aria-label="Care">
  <header>
    <h2>Care</h2>
    <a class="link" href={`/api/builds/${build.id}/calendar.ics`} download="{build.document?.name}.ics">Calendar</a>
  </header>
  {#each shown as { due, at } (due.id)}
    <p class="line" class:due={at <= now}>
      <span class="grow"
        >{due.what}{#if due.name}: <b>{due.name}</b>{/if}
        <span class="soft"
          >{#if !due.told}{spread(due.early_days, due.late_days)}{/if}{#if due.note}; {due.note}{/if}</span
        ></span
      >
      <span class="num">{at <= now ? "due since " : ""}{day(new Date(at))}</span>
      {#if build.editable}<button class="link" onclick={() => marks.add(due.id, "cared", { word: due.what })}
          >done</button
        >{/if}
    </p>
  {:else}
    <p class="soft">Nothing of this build is due by its classes.</p>
  {/each}
  {#if rows.length > 5}<button class="link" onclick={() => (all = !all)}>{all ? "fewer" : `all ${rows.length}`}</button
    >{/if}
  {#if build.editable}
    <form class="acts" onsubmit={add}>
      <input
        class="field grow"
        aria-label="What else is due"
        placeholder="what else is due"
        maxlength="200"
        bind:value={what}
      />
      <NumberField
        label="Every so many days"
        hideLabel
        value={days}
        unit="days"
        low={1}
        high={36500}
        width={64}
        placeholder="every"
        onchange={(value) => (days = value)}
      />
      <button class="button" disabled={!days || !what.trim()}>+</button>
    </form>
  {/if}
  <details>
    <summary class="soft">before and after travel</summary>
    {#each sheet.travel.before as line (line)}<p class="text-sm">{line}</p>{/each}
    {#each sheet.travel.heavy as heavy (heavy.part)}<p class="text-sm"><b>{heavy.name}</b>: {heavy.do}</p>{/each}
    <p class="soft text-sm">After:</p>
    {#each sheet.travel.after as line (line)}<p class="text-sm">{line}</p>{/each}
  </details>
</section>

<style>
  section {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 4px;
    font-size: 14px;
  }
  header,
  .line {
    display: flex;
    gap: 8px;
    justify-content: space-between;
    align-items: baseline;
  }
  .line {
    border-top: 1px solid var(--line);
    padding-top: 3px;
  }
  .line.due {
    color: var(--tight);
  }
  .line .num {
    white-space: nowrap;
    font-size: 13px;
  }
  .grow {
    flex: 1;
    min-width: 0;
  }
  .acts {
    display: flex;
    gap: 6px;
    align-items: center;
    margin-top: 4px;
  }
  .field {
    font-size: 13px;
    padding: 2px 6px;
  }
  summary {
    cursor: pointer;
    font-size: 13px;
  }
</style>
