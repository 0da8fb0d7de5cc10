<script lang="ts">
  import type { WorkloadResult } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { flipPath, pathOf } from "$lib/document/air";
  import { leaves } from "$lib/document/elements";
  import { turnHousing } from "$lib/document/housing";
  import { isOfAir } from "$lib/document/notices";
  import TrialPanel from "$lib/ui/TrialPanel.svelte";
  import { fixed, signed } from "$lib/units/format";
  import Faces from "./Faces.svelte";
  import HousingPanel from "./HousingPanel.svelte";
  import FanPanel from "./FanPanel.svelte";
  import PathStrip from "./PathStrip.svelte";
  import SoundPanel from "./SoundPanel.svelte";
  import StillAir from "./StillAir.svelte";
  import { elsewhere, zoneName } from "./model";

  let { build }: { build: BuildState } = $props();
  const result = $derived(build.result);
  let selected = $state<string | null>(null);
  let shown = $state<string | null>(null);
  let housing = $state(false);
  const paths = $derived(build.document?.air_paths ?? []);
  const path = $derived(
    paths.find((p) => p.id === shown) ??
      (selected && build.document ? pathOf(build.document, selected) : undefined) ??
      paths.find((p) => leaves(p.elements).some(isFan)) ??
      paths[0],
  );
  const fan = $derived.by(() => {
    const ids = path ? leaves(path.elements) : [];
    return selected && ids.includes(selected) && isFan(selected) ? selected : ids.find(isFan);
  });
  const boxes = $derived(result?.zones.filter((zone) => zone.kind === "box") ?? []);
  const notices = $derived(result?.notices.filter((notice) => isOfAir(notice.address, build.document)) ?? []);
  const others = $derived(build.document && result ? elsewhere(build.document, result) : []);

  function isFan(id: string): boolean {
    return build.document?.parts.find((part) => part.id === id)?.kind === "fan";
  }

  function saysOf(zone: WorkloadResult["zones"][number]): string {
    if (zone.pressure_pa === null || zone.pressure_pa === undefined) return "no air path touches it";
    const way =
      zone.pressure_pa > 0.05
        ? "positive pressure: air leaves through the gaps"
        : zone.pressure_pa < -0.05
          ? "negative pressure: air and dust enter through the gaps"
          : "even with the room";
    const speed = zone.velocity_m_s === null ? "" : ` at ${fixed(zone.velocity_m_s, 2)} m/s`;
    return `${way}; ${fixed(zone.in_m3_h, 0)} m³/h pass${speed}`;
  }

  function select(part: string) {
    selected = part;
    shown = null;
  }

  function flip() {
    const target = path;
    if (target) void build.trial.propose(`flip ${target.name || target.id}`, (draft) => flipPath(draft, target.id));
  }

  const turn = () => void build.trial.propose("turn the housing", turnHousing);

  function onkeydown(event: KeyboardEvent) {
    const target = event.target as HTMLElement;
    if (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || event.ctrlKey || event.metaKey || event.altKey) return;
    if (localStorage.getItem("single-keys") === "0") return;
    if (event.key === "f") flip();
    else if (event.key === "t") turn();
    else return;
    event.preventDefault();
  }
</script>

<svelte:window {onkeydown} />

<div class="flex items-baseline gap-3">
  <h1>Air</h1>
  <p class="soft">
    the housing unfolded; {paths.length
      ? "arrow length is flow, tint is air temperature"
      : "watts that each face passes to the room, tint is its warmth"}
  </p>
  <span class="grow"></span>
  <button class="button" onclick={() => (housing = !housing)} aria-expanded={housing}>Housing</button>
  <button class="button" onclick={turn} title="t">Turn the housing</button>
  <button class="button" onclick={() => (build.adding = { what: "path" })} disabled={!build.editable}>Add</button>
</div>
{#if housing}<HousingPanel {build} />{/if}
{#if !result}
  <p class="soft mt-4">{build.unknown ? "No prediction until the figure above is corrected." : "Predicting …"}</p>
{:else if !paths.length}
  <p class="soft mt-4">
    {result.bodies.length ? "No air path: the housing is sealed." : "No air path yet."} A path leads air from one zone to
    another: press <kbd>a</kbd> or
    <button class="link" onclick={() => (build.adding = { what: "path" })}>add one</button>.
  </p>
  <TrialPanel {build} />
  {#if result.bodies.length}<StillAir {build} {result} />{/if}
{:else}
  <div class="grid2 mt-1" class:unsolved={build.unknown}>
    <div class="min-w-0">
      <Faces {build} {result} {selected} onselect={select} />
      {#if others.length}
        <div class="mb-2 flex flex-wrap gap-2">
          {#each others as other (other.address)}
            <button class="button text-sm" onclick={() => ((shown = other.address), (selected = null))}>
              {other.name}: {zoneName(build.document!, other.from_zone)} → {zoneName(build.document!, other.to_zone)}
              <span class="num">{fixed(other.airflow_m3_h, 0)} m³/h, {fixed(other.outlet_c)} °C</span>
            </button>
          {/each}
        </div>
      {/if}
      {#if build.trial.document}<TrialPanel {build} />
      {:else if path}<PathStrip {build} {result} {path} {selected} onselect={select} />{/if}
      {#if notices.length}
        <section class="panel mt-3" aria-label="Notices of the air">
          {#each notices as notice, i (i)}
            <p class={notice.level === "warning" ? "fault" : "soft text-sm"}>{notice.text}</p>
          {/each}
        </section>
      {/if}
    </div>
    <div class="grid content-start gap-3">
      <section class="panel" aria-label="Pressure of the box">
        {#each boxes as zone (zone.address)}
          <button class="zone" onclick={() => (build.sheet = zone.address)}>
            <span class="soft">{zone.name}</span>
            <span
              ><span class="num big">{signed(zone.pressure_pa)}</span> Pa
              <span class="num big">{fixed(zone.temperature_c)}</span> °C</span
            >
          </button>
          {#if boxes.length === 1}
            <p class="soft text-sm">{saysOf(zone)}</p>
          {:else}
            <p class="soft text-sm" title={saysOf(zone)}>{fixed(zone.in_m3_h, 0)} m³/h pass</p>
          {/if}
        {:else}
          <p class="soft">No box or chamber.</p>
        {/each}
      </section>
      <SoundPanel {build} {result} />
      {#if fan}<FanPanel {build} {fan} />{/if}
    </div>
  </div>
{/if}

<style>
  .grid2 {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 302px;
    gap: 14px;
  }
  @media (max-width: 899px) {
    .grid2 {
      grid-template-columns: minmax(0, 1fr);
    }
  }
  .zone {
    display: flex;
    width: 100%;
    justify-content: space-between;
    align-items: baseline;
    cursor: pointer;
  }
  .big {
    font-size: 19px;
    font-weight: 650;
  }
</style>
