<script lang="ts">
  import type { WorkloadResult } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { flipPath } from "$lib/document/air";
  import type { AirPath } from "$lib/document/build";
  import { leaves, rows } from "$lib/document/elements";
  import { removePart } from "$lib/document/parts";
  import { moved } from "$lib/document/build";
  import { fixed } from "$lib/units/format";
  import DrawnAgain from "./DrawnAgain.svelte";
  import { zoneName } from "./model";

  /** The parts of one path in the order that its air meets them. */
  let {
    build,
    result,
    path,
    selected,
    onselect,
  }: {
    build: BuildState;
    result: WorkloadResult;
    path: AirPath;
    selected: string | null;
    onselect: (part: string) => void;
  } = $props();
  const list = $derived(rows(path.elements));
  const name = (id: string) => build.sourceNames[id] ?? id;
  const solved = (id: string) => result.air.find((element) => element.address === id);
  const outside = $derived(
    new Set(build.document!.zones.filter((zone) => zone.kind === "outside").map((zone) => zone.id)),
  );
  const exhausts = $derived(
    outside.has(path.from_zone)
      ? build.document!.air_paths.filter((p) => outside.has(p.to_zone) && p.id !== path.id)
      : [],
  );

  const flip = () => void build.trial.propose(`flip ${path.name || path.id}`, (draft) => flipPath(draft, path.id));

  function onkeydown(event: KeyboardEvent, id: string) {
    const top = path.elements.findIndex((element) => element === id || leaves([element]).includes(id));
    const by = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
    if (event.key === "Enter" && selected === id) build.sheet = id;
    else if (event.key === "Delete" && list.length > 1)
      build.edit(`take ${name(id)} out`, (draft) => removePart(draft, id));
    else if (by && event.altKey)
      build.edit(`order of ${path.name || path.id}`, (draft) => {
        const own = draft.air_paths.find((p) => p.id === path.id);
        if (own) own.elements = moved(own.elements, top, by);
      });
    else if (by) {
      const chips = [
        ...(event.currentTarget as HTMLElement).closest("ol")!.querySelectorAll<HTMLElement>("button.chip"),
      ];
      chips[chips.indexOf(event.currentTarget as HTMLElement) + by]?.focus();
    } else return;
    event.preventDefault();
  }
</script>

<section class="panel" aria-label="Path in view">
  <header>
    <h2>{path.name || path.id}</h2>
    <span class="soft">{zoneName(build.document!, path.from_zone)} to {zoneName(build.document!, path.to_zone)}</span>
    <span class="grow"></span>
    <button class="button" onclick={flip} title="f">Flip it</button>
    <button class="button" onclick={() => (build.adding = { what: "part", into: path.id })} disabled={!build.editable}
      >Add a part</button
    >
  </header>
  <ol>
    {#each list as row (row.id)}
      {@const element = solved(row.id)}
      <li>
        <button
          class="chip"
          class:on={selected === row.id}
          class:branch={row.depth > 0}
          onclick={() => (selected === row.id ? (build.sheet = row.id) : onselect(row.id))}
          onkeydown={(event) => onkeydown(event, row.id)}
          aria-keyshortcuts="ArrowLeft ArrowRight Delete Enter"
        >
          <span>{name(row.id)}</span>
          <span class="num soft"
            >{element ? `${fixed(element.drop_pa)} Pa` : "–"}{element && row.depth
              ? ` · ${fixed(element.airflow_m3_h, 0)} m³/h`
              : ""}</span
          >
        </button>
      </li>
    {/each}
  </ol>
  {#if exhausts.length}<DrawnAgain
      {build}
      {path}
      {exhausts}
      share={result.paths.find((p) => p.address === path.id)?.drawn_again_share ?? null}
    />{/if}
  <p class="soft text-sm">
    ← → along the path · Alt ← → moves · Enter twice opens · Del takes out{list.some((row) => row.depth)
      ? " · parts with a double edge are in parallel"
      : ""}
  </p>
</section>

<style>
  header {
    display: flex;
    align-items: baseline;
    gap: 10px;
  }
  ol {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    margin: 8px 0 4px;
  }
  .chip {
    display: grid;
    text-align: left;
    background: var(--sunk);
    border: 2px solid transparent;
    border-radius: 8px;
    padding: 3px 9px;
    cursor: pointer;
    font-size: 13.5px;
    font-weight: 600;
  }
  .chip .num {
    font-weight: 400;
    font-size: 12.5px;
  }
  .chip.on {
    border-color: var(--accent);
  }
  .branch {
    border-left: 3px double var(--soft);
  }
</style>
