<script lang="ts">
  import { client, type Prediction } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import { statusColour } from "$lib/ui/status";
  import StatusMark from "$lib/ui/StatusMark.svelte";
  import { fixed, half, signed } from "$lib/units/format";
  import Faults from "$lib/ui/Faults.svelte";
  import HeldTable from "./HeldTable.svelte";
  import StoppedTable from "./StoppedTable.svelte";

  let { build }: { build: BuildState } = $props();
  const SAMPLES = 400;
  const asked = new Asked<Prediction>();
  const prediction = $derived(asked.answer);
  const places = $derived(prediction?.workloads.find((w) => w.places.length)?.places ?? []);
  const unlasting = $derived(prediction?.workloads.filter((w) => w.no_state) ?? []);
  const counts = $derived.by(() => {
    const all = prediction?.workloads.flatMap((w) => w.places.map((p) => p.status)) ?? [];
    return (["holds", "tight", "throttled", "too hot", "unknown"] as const).map(
      (s) => [s, all.filter((x) => x === s).length] as const,
    );
  });

  $effect(() => {
    const document = build.document;
    const room_c = build.roomC;
    if (!document) return;
    return asked.ask(
      (as) => client.POST("/api/predict", { ...as, body: { document, room_c, samples: SAMPLES, seed: 1 } }),
      150,
    );
  });
</script>

<div class="mt-2 flex items-baseline gap-3">
  <p class="soft">Every part in every workload, room {fixed(build.room)} °C, bands hold 90 %</p>
  <span class="grow"></span>
  <a class="button" href={`/api/builds/${build.id}/prediction.csv`} download>Prediction as CSV</a>
</div>
<Faults faults={asked.faults} />
{#if !prediction}
  <p class="soft mt-4">{asked.faults.length ? "" : `Drawing ${SAMPLES} samples of every workload …`}</p>
{:else}
  <p class="mt-2 flex gap-5">
    {#each counts.filter(([, n]) => n) as [status, n] (status)}
      <span class="flex items-center gap-1.5"><StatusMark {status} /><span class="num">{n}</span> {status}</span>
    {/each}
    {#if asked.busy}<span class="soft" role="status">drawing anew …</span>{/if}
  </p>
  {#each unlasting as w (w.workload)}<p class="fault">{w.name}: {w.no_state?.what}</p>{/each}
  <div class="panel mt-2 overflow-x-auto" class:asking={asked.busy}>
    <table class="plain">
      <thead>
        <tr
          ><th>Part</th><th>limit</th>{#each prediction.workloads as w (w.workload)}<th class="text-right">{w.name}</th
            >{/each}</tr
        >
      </thead>
      <tbody>
        {#each places as place, i (place.address)}
          <tr>
            <td
              ><strong>{place.name}</strong>
              <span class="soft text-sm">{place.temperature_kind.replace("_", " ")}</span></td
            >
            <td class="num soft">{fixed(place.limit_c, 0)}</td>
            {#each prediction.workloads as w (w.workload)}
              {@const cell = w.places[i]}
              {#if w.no_state}
                <td class="soft text-right" title={w.no_state.what}>unknown</td>
              {:else if cell}
                <td class="text-right" title={cell.because}>
                  <button
                    class="w-full cursor-pointer"
                    onclick={() => ((build.selected = place.address), build.choose(w.workload))}
                  >
                    <span class="two"
                      ><span class="num cell">{fixed(cell.temperature_c)}</span> ± {fixed(half(cell.band_c))}</span
                    >
                    <span class="two" style:color={statusColour(cell.status)}>
                      <span class="num">{signed(cell.margin_k, 0)}</span> K <StatusMark
                        status={cell.status}
                        size={12}
                      />
                    </span>
                  </button>
                </td>
              {/if}
            {/each}
          </tr>
        {/each}
        <tr>
          <td><strong>Sound</strong></td>
          <td></td>
          {#each prediction.workloads as w (w.workload)}
            <td class="text-right"
              ><span class="num">{fixed(w.sound.total_dba)}</span>
              <span class="soft text-sm"
                >{w.sound.ceiling_dba === null ? "" : `of ${fixed(w.sound.ceiling_dba, 0)} `}dBA</span
              ></td
            >
          {/each}
        </tr>
        <tr>
          <td><strong>Heat</strong></td>
          <td></td>
          {#each prediction.workloads as w (w.workload)}<td class="text-right"
              ><span class="num">{fixed(w.power_w, 0)}</span> <span class="soft text-sm">W</span></td
            >{/each}
        </tr>
      </tbody>
    </table>
  </div>
  <HeldTable {build} />
  <StoppedTable {build} />
  <p class="soft mt-2 text-sm">
    {prediction.certifies}
    {prediction.drawn_figures} uncertain figures were drawn; the model's own error of 5 % of the rise is in the bands.
  </p>
{/if}

<style>
  .cell {
    font-size: 16px;
    font-weight: 600;
  }
  .two {
    display: block;
    white-space: nowrap;
    font-size: 13.5px;
    line-height: 1.25;
    text-align: right;
  }
</style>
