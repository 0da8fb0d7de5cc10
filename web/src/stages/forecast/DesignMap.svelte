<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import { isDuty, roomAddress } from "$lib/document/addresses";
  import { questionOf, soundsOf, steps, type MapAxis } from "$lib/document/vary";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { fixed } from "$lib/units/format";
  import Faults from "$lib/ui/Faults.svelte";
  import { shownOn, type Crossing } from "./map";
  import MapKey from "./MapKey.svelte";
  import MapPlot from "./MapPlot.svelte";

  /** Two figures over each other: where the wanted margin holds, where the ceiling is kept, where the build stands. */
  let { build }: { build: BuildState } = $props();
  const FINE = 21;
  const asked = new Asked<Schemas["DesignMap"]>();
  let xId = $state("");
  let yId = $state("");
  let reach = $state<Record<string, [number, number]>>({});
  let wanted = $state<number | null>(null);
  let pointed = $state<Crossing | null>(null);

  const offers = new Asked<Schemas["Offers"]>();
  $effect(() => {
    const { document, workloadId: workload } = build;
    if (document && workload)
      return offers.ask((as) => client.POST("/api/offers", { ...as, body: { document, workload } }), 150);
  });
  const offered = $derived(offers.answer?.numbers ?? []);
  const xAxis = $derived(offered.find((a) => a.address === xId) ?? offered[0]);
  const yAxis = $derived(offered.find((a) => a.address === yId && a !== xAxis) ?? offered.find((a) => a !== xAxis));
  const margin = $derived(wanted ?? build.document?.brief?.margin_wanted_k ?? 3);
  const ceiling = $derived(build.workload?.sound_ceiling_dba);

  function optionsOf(axis: MapAxis) {
    const [low, high] = reach[axis.address] ?? [axis.low, axis.high];
    const values = axis.whole
      ? Array.from({ length: Math.max(high - low + 1, 1) }, (_, i) => low + i)
      : steps(low, high, FINE);
    return { address: axis.address, options: values.map((value) => ({ value })) };
  }

  const roomVaries = $derived(
    Boolean(build.document && [xAxis, yAxis].some((axis) => axis?.address === roomAddress(build.document!))),
  );
  $effect(() => {
    const document = build.document;
    if (!document || !xAxis || !yAxis) return;
    const demands = {
      margins: [{ workload: build.workloadId, place: null, at_least_k: margin }],
      sounds: build.workload ? soundsOf(build.workload) : [],
    };
    const room = roomVaries ? null : build.roomC;
    const question = questionOf([optionsOf(yAxis), optionsOf(xAxis)], demands, room, ["margin"]);
    return asked.ask((as) => client.POST("/api/map", { ...as, body: { document, question } }), 250);
  });

  const answer = $derived(asked.answer);
  const rows = $derived(answer?.axes[0]?.values ?? []);
  const columns = $derived(answer?.axes[1]?.values ?? []);
</script>

{#snippet range(axis: MapAxis | undefined)}
  {#if axis}
    {@const scale = isDuty(axis.address) ? 100 : 1}
    {@const now = reach[axis.address] ?? [axis.low, axis.high]}
    <NumberField
      label="from"
      value={scale * now[0]}
      low={0}
      high={scale * now[1]}
      width={62}
      onchange={(v) => (reach[axis.address] = [v / scale, now[1]])}
    />
    <NumberField
      label="to"
      value={scale * now[1]}
      unit={scale === 100 ? "%" : axis.unit}
      low={scale * now[0]}
      high={scale === 100 ? 100 : 1e5}
      width={62}
      onchange={(v) => (reach[axis.address] = [now[0], v / scale])}
    />
  {/if}
{/snippet}

<section class="panel mt-3" aria-label="Map over two figures">
  <p class="flex flex-wrap items-center gap-x-4 gap-y-2">
    <label
      >Across <select class="field max-w-56" value={xAxis?.address} onchange={(e) => (xId = e.currentTarget.value)}>
        {#each offered as axis (axis.address)}<option value={axis.address}>{axis.name}</option>{/each}
      </select></label
    >
    {@render range(xAxis)}
    <label
      >Upwards <select class="field max-w-56" value={yAxis?.address} onchange={(e) => (yId = e.currentTarget.value)}>
        {#each offered.filter((a) => a !== xAxis) as axis (axis.address)}<option value={axis.address}
            >{axis.name}</option
          >{/each}
      </select></label
    >
    {@render range(yAxis)}
    <NumberField label="Meets" unit="K" value={margin} low={-20} high={80} width={58} onchange={(v) => (wanted = v)} />
  </p>
  <Faults faults={asked.faults} alert />
  <div class="map mt-2" class:asking={asked.busy} aria-busy={asked.busy}>
    {#if answer}
      <MapPlot {answer} {xAxis} {yAxis} bind:pointed />
    {:else if !asked.faults.length}
      <p class="soft p-4" role="status">Solving every crossing …</p>
    {/if}
  </div>
  {#if answer}
    <MapKey {answer} {margin} {ceiling} {roomVaries} workload={build.workload?.name || build.workloadId} />
    <p class="num text-sm" aria-live="polite">
      {#if pointed}
        {shownOn(yAxis, rows[pointed.row] ?? 0)}, {shownOn(xAxis, columns[pointed.column] ?? 0)}: {fixed(
          answer.margin_k[pointed.row]?.[pointed.column],
        )} K of margin, {fixed(answer.level_dba[pointed.row]?.[pointed.column])} dBA
      {:else}&nbsp;{/if}
    </p>
  {/if}
</section>
