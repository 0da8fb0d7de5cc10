<script lang="ts">
  import type { WorkloadResult } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { flipPath, recirculate, recirculationOf } from "$lib/document/air";
  import type { AirPath } from "$lib/document/build";
  import { leaves, rows } from "$lib/document/elements";
  import { removePart } from "$lib/document/parts";
  import { moved, valueOf } from "$lib/document/build";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { fixed } from "$lib/units/format";
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
  const again = $derived(recirculationOf(build.document!, path.id));

  function draw(exhaust: string, share: number) {
    build.edit(`exhaust drawn in again by ${path.name || path.id}`, (draft) =>
      recirculate(draft, path.id, exhaust, share),
    );
  }

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
  {#if exhausts.length}
    <p class="mt-1 flex flex-wrap items-baseline gap-2 text-sm">
      <NumberField
        label="Recirculates"
        unit="% of the exhaust from"
        value={100 * (valueOf(again?.recirculated_share) ?? 0)}
        low={0}
        high={95}
        width={58}
        disabled={!build.editable}
        onchange={(value) => draw(again?.from_path ?? exhausts[0]!.id, value / 100)}
      />
      <select
        class="field"
        aria-label="Recirculation"
        value={again?.from_path ?? exhausts[0]!.id}
        disabled={!build.editable}
        onchange={(e) => draw(e.currentTarget.value, valueOf(again?.recirculated_share) ?? 0.1)}
      >
        {#each exhausts as item (item.id)}<option value={item.id}>{item.name || item.id}</option>{/each}
      </select>
      <span class="soft">3 % free standing, 10 % beside an exhaust, 35 % in a small box of perforated panels</span>
    </p>
  {/if}
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
