<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { opened, type BuildDocument } from "$lib/document/build";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import { Runs } from "$lib/state/runs.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import StatusMark from "$lib/ui/StatusMark.svelte";
  import { fixed, half } from "$lib/units/format";
  import { measuredOf, type Measured } from "./measured";
  import Changes from "./Changes.svelte";
  import Ruler from "./Ruler.svelte";
  import TimeChart from "./TimeChart.svelte";
  import TimeTerraces from "./TimeTerraces.svelte";
  import { lasting, planned } from "$lib/units/lasting";
  import { aimsOf, at, lostWork, ofFirmware, risen, type InTime } from "./time";

  /** A load in time: how long a test must last, what 30 minutes are worth, how long a burst holds. */
  let { build }: { build: BuildState } = $props();
  const SAMPLES = 100;
  const QUICK_MS = 120;
  const BANDS_MS = 500;
  const quick = new Asked<InTime>();
  const banded = new Asked<InTime>();
  const stopping = new Asked<Schemas["StoppedInTime"]>();
  let minutes = $state(90);
  let before = $state("idle");
  let drift = $state(0);
  let closedRoom = $state(false);
  let comesAndGoes = $state(false);
  let onMin = $state(10);
  let offMin = $state(20);
  let minute = $state(30);
  let chosen = $state("");
  /** what is laid over: what was shown when it was chosen, or a run */
  const AS_NOW = "now";
  let over = $state("");
  let laid = $state.raw<InTime | null>(null);
  let measured = $state.raw<Measured[]>([]);
  const runs = new Runs();
  let revisions = $state.raw<Schemas["RevisionOut"][]>([]);
  $effect(() => {
    if (!build.id) return;
    void runs.list(build.id);
    const path = { build_id: build.id };
    void client
      .GET("/api/builds/{build_id}/revisions", { params: { path } })
      .then(({ data }) => (revisions = data ?? []));
  });
  /** a revision laid over goes through the same load, anew whenever that changes */
  const revised = new Asked<InTime>();
  let earlier = $state.raw<BuildDocument | null>(null);
  $effect(() => {
    const document = earlier;
    if (!document || !question) return;
    const body = { ...question, document };
    return revised.ask((as) => client.POST("/api/forecast-in-time", { ...as, body }), QUICK_MS);
  });
  const beside = $derived(earlier ? revised.answer : laid);
  const logged = $derived(
    (runs.cards ?? []).flatMap((card) =>
      card.kind === "log"
        ? card.windows
            .filter((load) => load.workload === build.workloadId)
            .map((load) => ({
              key: `${card.id}/${load.id}`,
              run: card.id,
              load,
              name: `${card.name}, revision ${card.revision}`,
            }))
        : [],
    ),
  );
  async function layOver(choice: string) {
    over = choice;
    laid = choice === AS_NOW ? told : null;
    measured = [];
    earlier = null;
    const number = revisions.find((one) => `revision/${one.number}` === choice)?.number;
    if (number !== undefined) {
      const path = { build_id: build.id, number };
      const { data } = await client.GET("/api/builds/{build_id}/revisions/{number}", { params: { path } });
      if (data && over === choice) earlier = opened(data.document);
    }
    const chosenRun = logged.find((one) => one.key === choice);
    if (!chosenRun) return;
    const path = { run_id: chosenRun.run };
    const [run, series] = await Promise.all([
      client.GET("/api/runs/{run_id}", { params: { path, query: { window: chosenRun.load.id } } }),
      client.GET("/api/runs/{run_id}/series", { params: { path } }),
    ]);
    const span = run.data?.analysis?.window;
    if (span && series.data && over === choice) measured = measuredOf(series.data, span.start_s / 60, span.end_s / 60);
  }

  const cycle = $derived(comesAndGoes ? { on_min: onMin, off_min: offMin } : {});
  const question = $derived.by(() => {
    const { document, workloadId: workload, roomC: room_c } = build;
    return document && workload
      ? { document, workload, room_c, minutes, before, drift_k_h: drift, closed_room: closedRoom, ...cycle }
      : null;
  });
  $effect(() => {
    const body = question;
    if (body) return quick.ask((as) => client.POST("/api/forecast-in-time", { ...as, body }), QUICK_MS);
  });
  $effect(() => {
    const body = question && { ...question, samples: SAMPLES };
    if (body) return banded.ask((as) => client.POST("/api/forecast-in-time", { ...as, body }), BANDS_MS);
  });
  $effect(() => {
    const { document, workloadId: workload, roomC: room_c } = build;
    if (!document || !workload || !build.bandsFresh || build.result?.no_state) return;
    return stopping.ask(
      (as) => client.POST("/api/stopped-in-time", { ...as, body: { document, workload, room_c } }),
      BANDS_MS,
    );
  });
  /** the centre first; its bands once they are drawn */
  const told = $derived(banded.busy ? (quick.answer ?? banded.answer) : (banded.answer ?? quick.answer));
  /** slopes that end it are looked for by the quick question alone */
  const hunting = $derived((quick.answer ?? told)?.hunting ?? []);
  const places = $derived(told?.curves.filter((curve) => curve.kind === "place") ?? []);
  const inView = $derived(
    places.some((curve) => curve.address === chosen)
      ? chosen
      : ([...places].sort((a, b) => (a.limit_c ?? 999) - a.settles_c - ((b.limit_c ?? 999) - b.settles_c))[0]
          ?.address ?? ""),
  );
  const loads = $derived(build.document?.workloads.filter((load) => load.id !== build.workloadId) ?? []);
  /** The load lasts as long as it must, and Bench opens. */
  function plan() {
    const id = build.workloadId;
    const needed = planned(told?.minutes_needed ?? 60);
    if (build.editable)
      build.edit(`${build.workload?.name || id}: ${needed} min`, (draft) => {
        const load = draft.workloads.find((one) => one.id === id);
        if (load) load.duration_min = needed;
      });
    location.hash = `#/build/${build.id}/bench`;
  }
  const last = $derived(told?.minutes.at(-1) ?? 0);
  const now = $derived(Math.min(minute, last));
</script>

<div class="mt-2 flex flex-wrap items-baseline gap-x-4 gap-y-2">
  <NumberField
    label="Load on for"
    value={minutes}
    unit="min"
    low={1}
    high={2880}
    width={60}
    onchange={(v) => (minutes = v)}
  />
  <label
    >over
    <select class="field" bind:value={before} aria-label="What was before">
      <option value="idle">idle, settled</option>
      <option value="cold">a cold machine</option>
      {#each loads as load (load.id)}<option value={load.id}>{load.name || load.id}, settled</option>{/each}
    </select></label
  >
  <NumberField
    label="room drifts"
    value={drift}
    unit="K/h"
    low={-20}
    high={20}
    width={52}
    onchange={(v) => (drift = v)}
  />
  <label class="flex items-center gap-1.5" title="The load goes again after some minutes, and comes back"
    ><input type="checkbox" bind:checked={comesAndGoes} /> comes and goes</label
  >
  {#if comesAndGoes}
    <NumberField label="on" value={onMin} unit="min" low={0.1} high={1440} width={52} onchange={(v) => (onMin = v)} />
    <NumberField label="off" value={offMin} unit="min" low={0} high={1440} width={52} onchange={(v) => (offMin = v)} />
  {/if}
  <label class="flex items-center gap-1.5" title="A closed room of 12 to 18 m², which the machine warms"
    ><input type="checkbox" bind:checked={closedRoom} /> closed room</label
  >
  <span class="grow"></span>
  {#if told}
    <label
      >lay over
      <select class="field max-w-44" value={over} onchange={(e) => void layOver(e.currentTarget.value)}>
        <option value="">nothing</option>
        <option value={AS_NOW}>as it is now</option>
        {#each revisions as one (one.number)}<option value="revision/{one.number}">revision {one.number}</option>{/each}
        {#each logged as one (one.key)}<option value={one.key}>{one.name}</option>{/each}
      </select></label
    >
  {/if}
</div>
<Faults faults={[...(told ? [] : [...quick.faults, ...stopping.faults]), ...(earlier ? revised.faults : [])]} alert />
{#if !told}
  {#if !quick.faults.length}<p class="soft mt-4" role="status">
      Following the load through {fixed(minutes, 0)} minutes …
    </p>{/if}
{:else}
  <p class="sentence" data-testid="in-time-says">{told.sentence.replace(/(\d) (min|h|s|W|K|%)/g, "$1\u00a0$2")}</p>
  {#if quick.busy || banded.busy}<p class="soft text-sm" role="status">
      {quick.busy ? "following anew …" : "drawing the bands …"}
    </p>{/if}
  <TimeChart {told} over={beside} {measured} bind:minute bind:chosen={() => inView, (v) => (chosen = v)} />
  <div class="beside">
    <section aria-label="At minute {now}">
      <h2>{now} min after load on</h2>
      <TimeTerraces {told} minute={now} bind:chosen={() => inView, (v) => (chosen = v)} />
      <table class="plain">
        <thead
          ><tr
            ><th>°C</th><th class="text-right">then</th><th></th>{#if beside}<th class="text-right">laid over</th
              >{/if}<th class="text-right">{told.on_min === null ? "settles" : "peaks at"}</th><th class="text-right"
              >of its rise</th
            ><th class="text-right">limit</th></tr
          ></thead
        >
        <tbody>
          {#each told.curves.filter((curve) => curve.kind !== "body") as curve (curve.address)}
            {@const share = risen(told, curve, now)}
            {@const low = at(told.minutes, curve.low_c, now)}
            {@const high = at(told.minutes, curve.high_c, now)}
            <tr class:own={curve.address === inView}>
              <td
                ><button class="link" onclick={() => (chosen = curve.address)}>{curve.name}</button>
                {#if curve.status}<StatusMark status={curve.status} size={13} />{/if}</td
              >
              <td class="num text-right">{fixed(at(told.minutes, curve.c, now) ?? 0)}</td>
              <td class="num soft">{low !== null && high !== null ? `± ${fixed(half({ low, high }))}` : ""}</td>
              {#if beside}
                {@const other = beside.curves.find((one) => one.address === curve.address)}
                <td class="num text-right">{fixed(other ? at(beside.minutes, other.c, now) : null)}</td>
              {/if}
              <td class="num text-right">{fixed(curve.settles_c)}</td>
              <td class="num text-right">{share === null ? "–" : `${fixed(100 * share, 0)} %`}</td>
              <td class="text-right"
                >{#if curve.limit_min !== null}<span class="fault-text num">{lasting(60 * curve.limit_min)}</span
                  >{:else if curve.limit_share}<span class="num soft">1 in {fixed(1 / curve.limit_share, 0)}</span
                  >{:else if curve.limit_c !== null}<span class="soft">not met</span>{/if}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    </section>
    <section aria-label="What it comes to">
      <p>
        <button class="button main" onclick={plan}>Plan {planned(told.minutes_needed)} min</button>
        <span class="soft">on Bench; {told.slowest} is the slowest.</span>
      </p>
      {#each told.bursts as burst (burst.source)}
        <p>
          <b>{burst.name}, {fixed(burst.watts, 0)} W</b> for {lasting(burst.wanted_s)} wanted: soaked
          {burst.soaked_s === null
            ? `it holds all of ${lasting(burst.looked_s)}`
            : `it holds ${lasting(burst.soaked_s)}`},
          {burst.fresh_s === null
            ? `fresh all of ${lasting(burst.looked_s)}`
            : `fresh ${lasting(burst.fresh_s)}`}{#if burst.at_c !== null}<span class="soft"
              >, until the band meets {fixed(burst.at_c, 0)} °C</span
            >{/if}.
        </p>
      {/each}
      {#each told.held_back as held (held.source)}
        <p class="fault">
          {held.name} gives up watts for {fixed(100 * held.share_of_time, 0)} % of the time: {fixed(
            held.lost_w,
            held.full_w < 10 ? 1 : 0,
          )} of
          {fixed(held.full_w, 0)} W{#if held.clock_share !== null}, {fixed(100 * (1 - held.clock_share), 0)} % of its clock{/if}{#if held.work_share !== null},
            {lostWork(held.work_share)} % of its work{/if}.
          <span class="soft">{ofFirmware(held)}</span>
        </p>
      {:else}
        <p><StatusMark status="holds" size={13} /> Never throttled, no clock lost.</p>
      {/each}
      {#each hunting as swing (swing.mover)}
        <p class="fault">
          {swing.name} hunts: {fixed(100 * swing.low, 0)} to {fixed(100 * swing.high, 0)} % every {lasting(
            swing.period_s,
          )}.
          {#if swing.slope === null}A flatter curve, a slower ramp or a slower sensor ends it.
          {:else if swing.slope_that_ends === null}Its curve rises {fixed(100 * swing.slope, 0)} % a kelvin, and hunts flatter,
            too: a slower ramp or a slower sensor ends it.
          {:else}Its curve rises {fixed(100 * swing.slope, 0)} % a kelvin; at {fixed(100 * swing.slope_that_ends, 0)} it holds
            still.{/if}
        </p>
      {/each}
      {#if told.on_min === null}<Changes {build} {before} aims={aimsOf(told, inView, now)} />{/if}
    </section>
  </div>
  <Ruler {build} {told} stopped={stopping.answer} />
  <p class="soft mt-2 text-sm">{told.certifies}</p>
{/if}

<style>
  .sentence {
    font-size: 20px;
    font-weight: 700;
    line-height: 1.3;
    margin: 10px 0 6px;
    text-wrap: balance;
  }
  .beside {
    display: grid;
    grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
    gap: 24px;
    margin-top: 8px;
  }
  h2 {
    font-size: 16px;
  }
  td:not(:first-child) {
    white-space: nowrap;
  }
  td .link {
    text-align: left;
  }
  .own td:first-child {
    box-shadow: inset 3px 0 var(--accent);
    padding-left: 8px;
  }
  .fault-text {
    color: var(--too-hot);
  }
  section p {
    margin-top: 6px;
  }
  @media (max-width: 900px) {
    .beside {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
