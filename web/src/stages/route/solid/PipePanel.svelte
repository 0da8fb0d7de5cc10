<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import Lines from "$lib/charts/Lines.svelte";
  import { addPipeGroup } from "$lib/document/ways";
  import { celsius, fixed, watts } from "$lib/units/format";
  import Faults from "$lib/ui/Faults.svelte";
  import PipeSection from "./PipeSection.svelte";

  /** A group of heat pipes: its section to scale, what the busiest carries of its limit, the limits over temperature. */
  let { build, pipe }: { build: BuildState; pipe: Schemas["PipeResult"] } = $props();
  const asked = new Asked<Schemas["PipeChart"]>();

  $effect(() => {
    const document = build.document;
    const question = { part: pipe.address, workload: build.workloadId, room_c: build.roomC };
    if (!document) return;
    return asked.ask((as) => client.POST("/api/pipe-chart", { ...as, body: { document, ...question } }));
  });
  const chart = $derived(asked.answer);
  const most = $derived(Math.max(...(chart?.least ?? [[0, 1]]).map((p) => p[1]!), chart?.point[1] ?? 0) * 1.3);
</script>

<PipeSection {pipe} />
<p>
  <span class="num">{watts(pipe.group_w)}</span> through {pipe.count}; the busiest
  <span class="num">{watts(pipe.busiest_w)}</span> of
  <span class="num">{watts(pipe.limit_w)}</span> ({pipe.binding} limit)
</p>
<div class="meter" aria-hidden="true">
  <span style:width="{Math.min(100 * pipe.share, 100)}%" class:hot={pipe.share > 0.8}></span>
</div>
<p class={pipe.state === "dried out" ? "fault" : "soft"}>
  {pipe.state}: {fixed(100 * pipe.share, 0)} % of its limit, vapour {celsius(pipe.vapour_c, 0)}, {fixed(
    pipe.resistance_k_w,
    3,
  )} K/W each
</p>
<button
  class="button mb-2"
  disabled={!build.editable}
  onclick={() =>
    build.edit(`${pipe.name}: another group`, (draft) => {
      build.sheet = addPipeGroup(draft, pipe.address) ?? build.sheet;
    })}>Add a group of another length</button
>
<Faults faults={asked.faults} />
{#if chart}
  <h3>Limits over vapour temperature</h3>
  <Lines
    label="Heat pipe limits over vapour temperature, working point {fixed(chart.point[1])} W at {celsius(
      chart.point[0],
    )}"
    lines={[
      ...chart.limits
        .filter((limit) => limit.points.some((p) => p[1]! < most))
        .map((limit) => ({ name: limit.name, points: limit.points, main: limit.name === pipe.binding })),
    ]}
    point={chart.point}
    xUnit="°C"
    yUnit="W"
    yMost={most}
  />
  <ul class="soft text-sm">
    {#each pipe.limits as limit (limit.name)}
      <li>
        <span>{limit.name}</span><span class="num">{limit.watts > 2000 ? "over 2000" : fixed(limit.watts, 0)} W</span>
      </li>
    {/each}
  </ul>
  <p class="soft text-sm">
    The capillary limit is the class's or data sheet's, brought to this state by Chi's form; boiling and entrainment are
    stated, their physics is weak.
  </p>
{/if}

<style>
  h3 {
    font-weight: 650;
    margin: 10px 0 2px;
  }
  .meter {
    height: 8px;
    border-radius: 4px;
    background: var(--sunk);
    margin: 4px 0;
    overflow: hidden;
  }
  .meter span {
    display: block;
    height: 100%;
    background: var(--holds);
  }
  .meter .hot {
    background: var(--too-hot);
  }
  li {
    display: flex;
    justify-content: space-between;
  }
</style>
