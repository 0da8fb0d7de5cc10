<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import Cautions from "$lib/ui/Cautions.svelte";
  import TrialPanel from "$lib/ui/TrialPanel.svelte";
  import { fixed, kelvins } from "$lib/units/format";
  import LoopTable from "./LoopTable.svelte";
  import PumpChart from "./PumpChart.svelte";
  import Ring from "./Ring.svelte";
  import SolidTable from "./solid/SolidTable.svelte";
  import Terraces from "./Terraces.svelte";

  let { build }: { build: BuildState } = $props();
  const result = $derived(build.result);
</script>

<div class="flex items-baseline gap-3">
  <h1>Route</h1>
  <p class="soft grow">width is watts, height is kelvins; what stands on a common terrace shares it</p>
  <button class="button" onclick={() => (build.adding = { what: "part" })} disabled={!build.editable} title="a"
    >Add a part</button
  >
</div>
{#if !result}
  <p class="soft mt-4">{build.unknown ? "No prediction until the figure above is corrected." : "Predicting …"}</p>
{:else if !result.places.length}
  <p class="soft mt-4">
    No source has a route yet. Press <kbd>a</kbd> to add a loop, an air path or a source, or start from a recipe.
  </p>
  <button class="button mt-2" onclick={() => (build.adding = { what: "source" })} disabled={!build.editable}
    >Add to the build</button
  >
  <a class="button main mt-2 ml-2 inline-block" href={`#/build/${build.id}/forecast/size`}>Size one from watts (s)</a>
{:else}
  <div class:unsolved={build.unknown}><Terraces {build} {result} /></div>
  <TrialPanel {build} />
  {#if result.bodies.length}<SolidTable {build} {result} />{/if}
  {#each result.loops as loop (loop.address)}
    <section class="panel mt-3" class:unsolved={build.unknown}>
      <div class="flex items-baseline gap-3">
        <h2>{loop.name}</h2>
        <p class="soft">
          {fixed(loop.flow_l_min)} l/min at {fixed(loop.pumps[0]?.head_kpa, 0)} kPa · {loop.coolant}
        </p>
        <span class="grow"></span>
        <button class="button" onclick={() => (build.sheet = loop.address)}>Coolant and volume</button>
      </div>
      <div class="flex items-center gap-4">
        <Ring {build} {loop} />
        <PumpChart {build} {loop} />
      </div>
      <LoopTable {build} {loop} />
    </section>
  {/each}
  <section
    class="mt-3 grid gap-3 md:grid-cols-2"
    class:hidden={!result.loops.length && !result.paths.length}
    class:unsolved={build.unknown}
  >
    <div class="panel" class:hidden={!result.loops.length}>
      <h2>Rules of thumb beside the model</h2>
      <p>
        <span class="num">{fixed(result.rules.watts_per_section, 0)} W</span> per section of 120 mm
        <span class="soft">(100 to 150 is the rule)</span>
      </p>
      <p>
        Coolant <span class="num">{kelvins(result.rules.coolant_over_room_k)}</span> over room
        <span class="soft">(5 lavish, 10 good, 15 tight)</span>
      </p>
      {#if result.rules.note}<p class="text-sm"><strong>{result.rules.note}</strong></p>{/if}
      <p>
        Loop order changes coolant temperature by at most <span class="num">{kelvins(result.rules.loop_order_k)}</span>
      </p>
    </div>
    <div class="panel" class:hidden={!result.paths.length}>
      <h2>Air</h2>
      {#each result.paths as path (path.address)}
        <p>
          {path.name}: <span class="num">{fixed(path.airflow_m3_h, 0)} m³/h</span>,
          <span class="num">{fixed(path.inlet_c)}</span> to <span class="num">{fixed(path.outlet_c)} °C</span>
        </p>
      {/each}
      {#each result.zones.filter((z) => z.kind === "box") as zone (zone.address)}
        <p class="soft">
          {zone.name}: <span class="num">{fixed(zone.temperature_c)} °C</span>,
          <span class="num">{fixed(zone.pressure_pa)} Pa</span> against the room
        </p>
      {/each}
      <p class="soft text-sm">See Air for the flow paths.</p>
    </div>
  </section>
  {#if result.notices.length}
    <section class="panel mt-3">
      <h2>Notices</h2>
      {#each result.notices as notice, i (i)}
        <p class={notice.level === "warning" ? "fault" : "soft"}>{notice.text}</p>
      {/each}
    </section>
  {/if}
  <section class="mt-3 grid gap-1.5">
    <Cautions {build} at="route" />
  </section>
  <p class="soft mt-3 text-sm">An estimate from class-typical and stated figures. It certifies nothing.</p>
{/if}
