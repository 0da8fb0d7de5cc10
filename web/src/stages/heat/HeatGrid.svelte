<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { partsOf, pastedNumbers, valueOf } from "$lib/document/build";
  import { addWorkload, moveIn, stateWatts, type StartOf } from "$lib/document/workloads";
  import NumberField from "$lib/ui/NumberField.svelte";
  import OriginDot from "$lib/ui/OriginDot.svelte";
  import OriginLegend from "$lib/ui/OriginLegend.svelte";
  import { watts } from "$lib/units/format";

  /** Sources by workloads: a cell is a figure and where it comes from. */
  let { build }: { build: BuildState } = $props();
  const workloads = $derived(build.document!.workloads);
  const sources = $derived(partsOf(build.document!, "source"));
  const supplies = $derived(partsOf(build.document!, "supply"));
  const rating = $derived(supplies.reduce((sum, supply) => sum + (valueOf(supply.rating_w) ?? 0), 0));
  const sums = $derived(workloads.map((w) => sources.reduce((sum, s) => sum + (valueOf(w.watts[s.id]) ?? 0), 0)));
  const most = $derived(Math.max(rating, ...sums, 1));
  let starting = $state(false);

  function set(workload: string, source: string, value: number) {
    const name = build.sourceNames[source] ?? source;
    build.edit(`${name} in ${workload}: ${value} W`, (draft) => stateWatts(draft, workload, source, value));
  }

  /** A pasted column fills the sources from here down. */
  function paste(event: ClipboardEvent, workload: string, row: number) {
    const numbers = pastedNumbers(event.clipboardData?.getData("text") ?? "");
    if (numbers.length < 2) return;
    event.preventDefault();
    build.edit(`pasted ${numbers.length} watts`, (draft) => {
      const target = draft.workloads.find((w) => w.id === workload);
      numbers.forEach((value, i) => {
        const source = sources[row + i];
        if (target && source && value >= 0) target.watts[source.id] = value;
      });
    });
  }

  function add(start: StartOf) {
    starting = false;
    const isSet = start.kind === "set" || start.kind === "machines";
    build.edit(isSet ? "add a set of workloads" : "add a workload", (draft) => {
      const id = addWorkload(draft, start);
      if (!isSet) build.sheet = id;
    });
  }

  const firstOf = (menu: HTMLElement) => menu.querySelector<HTMLElement>("button")?.focus();

  /** Arrows go through the menu; Esc closes it and goes back to what opened it. */
  function inMenu(event: KeyboardEvent) {
    const items = [...(event.currentTarget as HTMLElement).querySelectorAll<HTMLElement>("button")];
    const by = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (by) items[(items.indexOf(event.target as HTMLElement) + by + items.length) % items.length]?.focus();
    else if (event.key === "Escape") {
      starting = false;
      (event.currentTarget as HTMLElement).parentElement?.querySelector<HTMLElement>(".plus")?.focus();
    } else return;
    event.preventDefault();
    event.stopPropagation();
  }

  /** Alt and an arrow move a source up or down, a workload left or right; Enter opens. */
  function onkeydown(event: KeyboardEvent, id: string, list: "parts" | "workloads") {
    const by = ["ArrowUp", "ArrowLeft"].includes(event.key)
      ? -1
      : ["ArrowDown", "ArrowRight"].includes(event.key)
        ? 1
        : 0;
    if (!event.altKey || !by) return;
    event.preventDefault();
    const other = sources[sources.findIndex((source) => source.id === id) + by];
    build.edit("order", (draft) => {
      if (list === "workloads") moveIn(draft.workloads, id, by);
      else if (other) {
        const [a, b] = [draft.parts.findIndex((p) => p.id === id), draft.parts.findIndex((p) => p.id === other.id)];
        [draft.parts[a], draft.parts[b]] = [draft.parts[b]!, draft.parts[a]!];
      }
    });
  }
</script>

<div class="mt-2 flex justify-end"><OriginLegend /></div>
<div class="grid-scroll">
  <table class="heat" aria-label="Watts of each source in each workload">
    <thead>
      <tr>
        <th class="who">Source <small>watts of the</small></th>
        {#each workloads as workload (workload.id)}
          <th class:now={workload.id === build.workloadId}>
            <button
              class="head"
              onclick={() => (build.sheet = workload.id)}
              onkeydown={(event) => onkeydown(event, workload.id, "workloads")}
              title="Name, how long, how loud, fans and pumps, bursts; Alt ← → moves it"
              >{workload.name || workload.id} <span aria-hidden="true">⌄</span></button
            >
            <small
              >{[
                workload.duration_min ? `${workload.duration_min} min` : "long",
                ...(workload.sound_ceiling_dba ? [`${workload.sound_ceiling_dba} dBA`] : []),
              ].join(", ")}</small
            >
          </th>
        {/each}
        <th class="add">
          <button
            class="plus"
            onclick={() => (starting = !starting)}
            aria-expanded={starting}
            disabled={!build.editable}>+ workload</button
          >
          {#if starting}
            <div class="menu panel" role="menu" tabindex="-1" onkeydown={inMenu} {@attach firstOf}>
              <button role="menuitem" onclick={() => add({ kind: "copy", of: build.workloadId })}
                >Copy of {build.workload?.name || build.workloadId}</button
              >
              <button role="menuitem" onclick={() => add({ kind: "blank" })}>Blank</button>
              <button role="menuitem" onclick={() => add({ kind: "set" })}>Idle, each alone, all at once</button>
              {#if (build.document?.machines?.length ?? 0) > 1}
                <button role="menuitem" onclick={() => add({ kind: "machines" })}
                  >Idle, each machine alone, all at once</button
                >
              {/if}
            </div>
          {/if}
        </th>
      </tr>
    </thead>
    <tbody>
      {#each sources as source, row (source.id)}
        <tr>
          <th class="who" scope="row">
            <button
              class="head"
              onclick={() => (build.sheet = source.id)}
              onkeydown={(event) => onkeydown(event, source.id, "parts")}
              title="Open; Alt ↑ ↓ moves it">{source.name || source.id}</button
            >
            <small>{source.power_kind ?? "package"}</small>
          </th>
          {#each workloads as workload (workload.id)}
            <td class:now={workload.id === build.workloadId}>
              <NumberField
                label="{source.name || source.id} in {workload.name}"
                hideLabel
                bare
                value={valueOf(workload.watts[source.id])}
                low={0}
                high={2000}
                width={74}
                disabled={!build.editable}
                onchange={(v) => set(workload.id, source.id, v)}
                onpaste={(e) => paste(e, workload.id, row)}
              />
              <OriginDot figure={workload.watts[source.id]} />
            </td>
          {/each}
          <td></td>
        </tr>
      {/each}
      <tr>
        <th class="who">
          <button class="plus" onclick={() => (build.adding = { what: "source" })} disabled={!build.editable}
            >+ source</button
          >
        </th>
        <td colspan={workloads.length + 1}></td>
      </tr>
    </tbody>
    <tfoot>
      <tr>
        <th class="who" scope="row">Sum</th>
        {#each sums as sum, i (workloads[i]?.id)}
          <td class:now={workloads[i]?.id === build.workloadId}>
            <span class="num sum">{watts(sum)}</span>
            <div class="bar" title={rating ? `${watts(sum)} of ${watts(rating)} that the supply is rated for` : ""}>
              <div style:width="{(100 * sum) / most}%"></div>
              {#if rating}<span style:left="{(100 * rating) / most}%"></span>{/if}
            </div>
          </td>
        {/each}
        <td></td>
      </tr>
      <tr>
        <th class="who" scope="row">Burst <small>over what is held</small></th>
        {#each workloads as workload (workload.id)}
          <td class:now={workload.id === build.workloadId} class="soft burst">
            {#each Object.entries(workload.burst ?? {}) as [source, burst] (source)}
              <div title="{build.sourceNames[source] ?? source} draws {burst.power_w} W for {burst.hold_s} s">
                {watts(burst.power_w)}, {burst.hold_s} s
              </div>
            {:else}none{/each}
          </td>
        {/each}
        <td></td>
      </tr>
    </tfoot>
  </table>
</div>
<p class="soft mt-2 text-sm">
  Paste a column of a spreadsheet into any cell · Enter on a name opens it · Alt ↑ ↓ orders sources, Alt ← → workloads ·
  fans and pumps add their own watts
</p>

<style>
  .burst {
    font-size: 13px;
  }
  .grid-scroll {
    position: relative;
    overflow-x: auto;
    padding-bottom: 90px;
    margin-bottom: -90px;
  }
  .heat {
    border-collapse: collapse;
    min-width: 100%;
  }
  th,
  td {
    padding: 6px 8px;
    text-align: right;
    white-space: nowrap;
  }
  thead th {
    vertical-align: top;
    border-bottom: 1px solid var(--ink);
  }
  tbody tr {
    border-bottom: 1px solid var(--line);
  }
  tfoot tr:first-child {
    border-top: 1px solid var(--ink);
  }
  .who {
    text-align: left;
    font-weight: 600;
    position: sticky;
    left: 0;
    background: var(--ground);
  }
  small {
    font-weight: 400;
    color: var(--soft);
    font-size: 12.5px;
    margin-left: 6px;
  }
  thead small {
    display: block;
    margin: 0;
  }
  .head {
    font-weight: 650;
    cursor: pointer;
    padding: 3px 0;
  }
  .head:hover {
    text-decoration: underline;
    text-decoration-color: var(--accent);
  }
  .plus {
    color: var(--ink);
    font-weight: 600;
    border-bottom: 2px solid var(--accent);
    cursor: pointer;
    padding: 3px 0;
  }
  .add {
    text-align: left;
    position: relative;
  }
  .menu {
    position: absolute;
    right: 0;
    top: 34px;
    z-index: 12;
    display: grid;
    padding: 4px;
    box-shadow: 0 6px 20px rgb(0 0 0 / 0.18);
  }
  .menu button {
    text-align: left;
    padding: 7px 10px;
    border-radius: 6px;
    cursor: pointer;
  }
  .menu button:hover,
  .menu button:focus-visible {
    background: var(--sunk);
  }
  .now {
    background: color-mix(in srgb, var(--sunk) 55%, transparent);
  }
  .sum {
    font-weight: 700;
    font-size: 16px;
  }
  .bar {
    position: relative;
    height: 6px;
    background: var(--sunk);
    border-radius: 3px;
    margin-top: 4px;
  }
  .bar div {
    height: 100%;
    background: var(--soft);
    border-radius: 3px;
  }
  .bar span {
    position: absolute;
    top: -3px;
    width: 2px;
    height: 12px;
    background: var(--too-hot);
  }
</style>
