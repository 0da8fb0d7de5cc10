<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import ChannelRoles from "./ChannelRoles.svelte";
  import Pictures from "./Pictures.svelte";
  import RunLoads from "./RunLoads.svelte";
  import RunSettings from "./RunSettings.svelte";
  import { leadOf } from "./lead";
  import { readable } from "./readings";
  import Curves, { type Line } from "$lib/charts/Curves.svelte";
  import type { Runs } from "$lib/state/runs.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { fixed } from "$lib/units/format";

  let { build, runs }: { build: BuildState; runs: Runs } = $props();
  const run = $derived(runs.run!);
  const DELIMITERS: Record<string, string> = {
    ",": "comma",
    ";": "semicolon",
    "\t": "tab",
    "|": "bar",
    blank: "blanks",
  };
  let series = $state.raw<Schemas["SeriesOut"] | null>(null);
  const analysis = $derived(run.analysis);
  /** what else a log says, each quantity on a chart of its own */
  const QUANTITIES: [RegExp, string][] = [
    [/\/(temperature|coolant_hot|coolant_cold|air)$/, "°C"],
    [/\/(power|wall_power)$/, "W"],
    [/\/clock$/, "MHz"],
    [/\/speed$/, "rpm"],
    [/\/duty$/, "%"],
    [/\/flow$/, "l/min"],
    [/\/level$/, "dBA"],
  ];
  const charts = $derived(
    QUANTITIES.map(([role, unit]) => ({
      unit,
      lines: (series?.channels ?? [])
        .filter((c) => role.test(c.role))
        .map((c): Line => ({ name: c.name, minutes: c.minutes, values: c.values })),
    })).filter(({ lines }) => lines.length),
  );
  const lead = $derived(
    series && build.result && analysis
      ? leadOf(series, build.result.places, analysis.window.start_s / 60, analysis.window.end_s / 60)
      : null,
  );
  const told = $derived(run.document.room ?? {});
  const choices = $derived(readable(build));
  const named = (role: string) => choices.find((one) => one.role === role);
  let editingRoom = $state(false);
  const room = $derived(
    [told.start_c ?? analysis?.room_start_c, told.end_c ?? analysis?.room_end_c].filter((value) => value != null),
  );
  const roomSaid = $derived(
    room.length
      ? `${[...new Set(room.map((value) => fixed(value)))].join(" to ")} °C`
      : told.about_c != null
        ? `about ${fixed(told.about_c, 0)} °C`
        : told.evening_of
          ? `of the same evening as ${runs.cards?.find((card) => card.id === told.evening_of)?.name ?? "a run that is gone"}`
          : "not written down",
  );
  const settled = $derived((analysis?.channels ?? []).filter((c) => c.settled));
  const status = $derived.by(() => {
    const rising = settled.filter((c) => c.role.endsWith("/temperature") && !c.settled?.settled);
    if (!settled.length) return "";
    if (!rising.length) return "Every part has settled.";
    const need = Math.max(...rising.map((c) => c.settled?.minutes_needed ?? 0));
    return `${rising.map((c) => c.name.replace(" temperature", "")).join(", ")} still moving: ${fixed(need, 0)} more minutes are needed.`;
  });

  const loads = $derived(run.document.windows);
  const at = $derived(loads.findIndex((load) => (load.id ?? "load") === runs.window));
  const inView = $derived(loads[Math.max(at, 0)]!);

  /** The load in view by its two handles; its times are told from then on. */
  function moveWindow(from: number, to: number) {
    const times = { start_s: Math.round(from * 60), end_s: Math.round(to * 60) };
    void runs.change({ windows: loads.map((load) => (load === inView ? { ...load, ...times } : load)) });
  }

  $effect(() => {
    const id = run.id;
    series = null;
    editingRoom = false;
    if (run.kind !== "log") return;
    void client
      .GET("/api/runs/{run_id}/series", { params: { path: { run_id: id }, query: { points: 700 } } })
      .then(({ data }) => {
        if (id === runs.run?.id) series = data ?? null;
      });
  });
</script>

<div class="panel min-w-0">
  <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
    <h2>{run.name}</h2>
    <span class="soft">{run.workload}, revision {run.revision}</span>
    <span class="grow"></span>
    <a class="button text-sm" href={`/api/runs/${run.id}/run.csv`} download>Run as CSV</a>
    <a class="button text-sm" href={`/api/runs/${run.id}/run.json`} download>Run as JSON</a>
    {#if run.kind === "log"}<a class="button text-sm" href={`/api/runs/${run.id}/original`} download={run.file_name}
        >Original file</a
      >{/if}
    {#if build.editable}<button class="button text-sm" onclick={() => runs.remove(build.id)}>Remove</button>{/if}
  </div>
  <p class="mt-1 flex flex-wrap gap-4">
    {#if !editingRoom}
      <span>Room {roomSaid}</span>
      {#if build.editable}<button class="link" onclick={() => (editingRoom = true)}>Change the room</button>{/if}
    {:else}
      <NumberField
        label="Room at start"
        unit="°C"
        value={told.start_c ?? analysis?.room_start_c ?? undefined}
        low={-30}
        high={60}
        width={64}
        disabled={!build.editable}
        onchange={(v) => runs.change({ room: { ...told, start_c: v ?? null } })}
      />
      <NumberField
        label="at end"
        unit="°C"
        value={told.end_c ?? analysis?.room_end_c ?? undefined}
        low={-30}
        high={60}
        width={64}
        disabled={!build.editable}
        onchange={(v) => runs.change({ room: { ...told, end_c: v ?? null } })}
      />
    {/if}

    <span class="grow"></span>
    <a class="button main text-sm" href={`#/build/${build.id}/verdict`}>To the verdict</a>
  </p>
  <RunLoads {build} {runs} />
  <RunSettings {build} {runs} />
  {#if run.lacks.length && run.kind === "claim"}<p class="mt-1">
      This claim does not say: {run.lacks.join(", ")}.
    </p>{/if}
  {#if run.document.note}<p class="soft mt-1 text-sm">{run.document.note}</p>{/if}
  {#if run.lines}
    <p class="soft mt-1 text-sm" data-testid="lines">
      {run.lines.kept} rows kept, {run.lines.repaired} repaired, {run.lines.skipped} lines skipped ({run.lines
        .encoding}, {DELIMITERS[run.lines.delimiter ?? ","] ?? run.lines.delimiter}, decimal {run.lines.decimal === ","
        ? "comma"
        : "point"}{#if run.lines.time}, time: {run.lines.time}{/if}).
      {#each Object.entries(run.lines.reasons ?? {}) as [reason, count] (reason)}{count} × {reason}.
      {/each}
    </p>
  {/if}
  {#if analysis}
    <p class="mt-1" data-testid="status">
      <strong>{status}</strong>
      <span class="soft"
        >Load from {fixed(analysis.window.start_s / 60)} to {fixed(analysis.window.end_s / 60)} min, found by {analysis
          .window.by}.</span
      >
    </p>
    {#if lead}
      <p class="metre" data-testid="metre">
        <span class="figure num">{fixed(lead.celsius)}<span class="unit">°C</span></span>
        <span
          >{lead.name}<br /><span class="soft"
            >{fixed(Math.abs(lead.spare), 0)} K {lead.spare < 0 ? "over" : "below"} its limit</span
          ></span
        >
        <span class="figure num">{fixed(lead.minute, 0)}<span class="unit">min of load</span></span>
      </p>
    {/if}
    {#each charts as { unit, lines } (unit)}
      <Curves
        {lines}
        {unit}
        height={unit === "°C" ? 270 : 150}
        from={analysis.window.start_s / 60}
        to={analysis.window.end_s / 60}
        onwindow={build.editable && unit === charts[0]?.unit ? moveWindow : undefined}
      />
    {:else}<p class="soft">Loading the curves …</p>{/each}
    <table class="plain mt-1">
      <thead><tr><th>Channel</th><th>Settled</th></tr></thead>
      <tbody>
        {#each settled as channel, i (i)}<tr><td>{channel.name}</td><td class="num">{channel.sentence}</td></tr>{/each}
      </tbody>
    </table>
    <ChannelRoles
      channels={run.channels}
      roles={run.roles}
      editable={build.editable}
      onrole={(roles) => runs.change({ roles })}
      onunit={(units) => runs.change({ units })}
    />
  {:else}
    <table class="plain mt-2">
      <thead><tr><th>Minute</th><th>What</th><th>Read as</th><th>Figure</th><th>Load</th></tr></thead>
      <tbody>
        {#each run.document.readings ?? [] as reading, i (i)}
          <tr
            ><td class="num">{fixed(reading.minute, 0)}</td><td>{named(reading.role)?.name ?? reading.role}</td><td
              >{reading.kind}</td
            ><td class="num"
              >{reading.value == null ? reading.word : `${fixed(reading.value)} ${named(reading.role)?.unit ?? ""}`}</td
            ><td>{reading.load_on ? "on" : "ended"}</td></tr
          >
        {/each}
      </tbody>
    </table>
  {/if}
  <Pictures {build} {runs} />
</div>

<style>
  .metre {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 22px;
  }
  .metre .unit {
    font-size: 18px;
    font-weight: 400;
    margin-left: 6px;
  }
  .metre .figure {
    font-size: clamp(34px, 6vw, 58px);
    font-weight: 700;
    line-height: 1.1;
  }
</style>
