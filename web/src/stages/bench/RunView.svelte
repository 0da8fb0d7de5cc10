<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import ChannelRoles from "./ChannelRoles.svelte";
  import { leadOf } from "./lead";
  import Curves, { type Line } from "$lib/charts/Curves.svelte";
  import { rolesOf, type Runs } from "$lib/state/runs.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { fixed } from "$lib/units/format";

  let { build, runs }: { build: BuildState; runs: Runs } = $props();
  const run = $derived(runs.run!);
  const DELIMITERS: Record<string, string> = { ",": "comma", ";": "semicolon", "\t": "tab", "|": "bar" };
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
  const unitOf = (role: string) => QUANTITIES.find(([pattern]) => pattern.test(role))?.[1] ?? "";
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
  let editingRoom = $state(false);
  const room = $derived(
    [run.room_start_c ?? analysis?.room_start_c, run.room_end_c ?? analysis?.room_end_c].filter(
      (value) => value != null,
    ),
  );
  const settled = $derived((analysis?.channels ?? []).filter((c) => c.settled));
  const roles = $derived(
    rolesOf(
      build.result?.places ?? [],
      build.result?.loops ?? [],
      (build.result?.zones ?? []).filter((z) => z.kind === "box"),
      (build.document?.parts ?? []).filter((p) => p.kind === "fan" || p.kind === "pump"),
      (build.document?.parts ?? []).filter((p) => p.kind === "source"),
    ),
  );
  const status = $derived.by(() => {
    const rising = settled.filter((c) => c.role.endsWith("/temperature") && !c.settled?.settled);
    if (!settled.length) return "";
    if (!rising.length) return "Every part has settled.";
    const need = Math.max(...rising.map((c) => c.settled?.minutes_needed ?? 0));
    return `${rising.map((c) => c.name.replace(" temperature", "")).join(", ")} still moving: ${fixed(need, 0)} more minutes are needed.`;
  });

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
    {#if run.kind === "log"}<a class="button text-sm" href={`/api/runs/${run.id}/original`} download={run.file_name}
        >Original file</a
      >{/if}
    {#if build.editable}<button class="button text-sm" onclick={() => runs.remove(build.id)}>Remove</button>{/if}
  </div>
  <p class="mt-1 flex flex-wrap gap-4">
    {#if !editingRoom}
      <span
        >Room {room.length
          ? `${[...new Set(room.map((value) => fixed(value)))].join(" to ")} °C`
          : "not written down"}</span
      >
      {#if build.editable}<button class="link" onclick={() => (editingRoom = true)}>Change the room</button>{/if}
    {:else}
      <NumberField
        label="Room at start"
        unit="°C"
        value={run.room_start_c ?? analysis?.room_start_c ?? undefined}
        low={-30}
        high={60}
        width={64}
        disabled={!build.editable}
        onchange={(v) => runs.change({ room_start_c: v })}
      />
      <NumberField
        label="at end"
        unit="°C"
        value={run.room_end_c ?? analysis?.room_end_c ?? undefined}
        low={-30}
        high={60}
        width={64}
        disabled={!build.editable}
        onchange={(v) => runs.change({ room_end_c: v })}
      />
    {/if}

    <span class="grow"></span>
    <a class="button main text-sm" href={`#/build/${build.id}/verdict`}>To the verdict</a>
  </p>
  {#if run.note}<p class="soft mt-1 text-sm">{run.note}</p>{/if}
  {#if run.lines}
    <p class="soft mt-1 text-sm" data-testid="lines">
      {run.lines.kept} rows kept, {run.lines.repaired} lines repaired, {run.lines.skipped} skipped ({run.lines
        .encoding}, {DELIMITERS[run.lines.delimiter ?? ","] ?? run.lines.delimiter}, decimal {run.lines.decimal === ","
        ? "comma"
        : "point"}).
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
        <span>{lead.name}<br /><span class="soft">{fixed(lead.spare, 0)} K below its limit</span></span>
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
      {roles}
      editable={build.editable}
      onrole={(role) => runs.change({ roles: role })}
    />
  {:else}
    <table class="plain mt-2">
      <thead><tr><th>Minute</th><th>What</th><th>Read as</th><th>Figure</th><th>Load</th></tr></thead>
      <tbody>
        {#each run.readings as reading, i (i)}
          <tr
            ><td class="num">{fixed(reading.minute, 0)}</td><td
              >{roles.find((r) => r.role === reading.role)?.label ?? reading.role}</td
            ><td>{reading.kind}</td><td class="num">{fixed(reading.value)} {unitOf(reading.role)}</td><td
              >{reading.load_on ? "on" : "ended"}</td
            ></tr
          >
        {/each}
      </tbody>
    </table>
  {/if}
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
