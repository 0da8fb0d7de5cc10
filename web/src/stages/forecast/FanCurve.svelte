<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import Lines from "$lib/charts/Lines.svelte";
  import { leaves } from "$lib/document/elements";
  import NumberField from "$lib/ui/NumberField.svelte";
  import StatusMark from "$lib/ui/StatusMark.svelte";
  import { day, fixed } from "$lib/units/format";
  import Faults from "$lib/ui/Faults.svelte";

  /** Points to type into a firmware: the least duty that holds the margin at every load. */
  let { build }: { build: BuildState } = $props();
  const asked = new Asked<Schemas["FanCurveResult"]>();
  let sensorId = $state("");
  let groupId = $state("fans");
  let wanted = $state<number | null>(null);
  const isFan = (id: string) => build.document?.parts.find((part) => part.id === id)?.kind === "fan";
  const groups = $derived([
    ["fans", "all fans"],
    ...(build.document?.air_paths ?? [])
      .filter((path) => leaves(path.elements).some(isFan))
      .map((path) => [path.id, `fans of ${path.name || path.id}`]),
    ...(build.document?.parts ?? []).filter((p) => p.kind === "fan").map((p) => [p.id, p.name || p.id]),
  ]);
  const sensors = $derived([
    ...(build.result?.loops ?? []).map((loop) => [loop.address, `${loop.name}: coolant`]),
    ...(build.result?.places ?? []).map((place) => [place.address, place.name]),
    ...(build.result?.zones ?? []).filter((z) => z.kind === "box").map((zone) => [zone.address, zone.name]),
  ]);
  const sensor = $derived(sensors.some(([id]) => id === sensorId) ? sensorId : (sensors[0]?.[0] ?? ""));
  const group = $derived(groups.some(([id]) => id === groupId) ? groupId : "fans");
  const margin = $derived(wanted ?? build.document?.brief?.margin_wanted_k ?? 3);
  const fans = $derived(build.document?.parts.some((part) => part.kind === "fan"));

  $effect(() => {
    const document = build.document;
    if (!document || !sensor || !fans || !build.workloadId) return;
    const body = { document, workload: build.workloadId, room_c: build.roomC, sensor, group, margin_k: margin };
    return asked.ask((as) => client.POST("/api/fan-curve", { ...as, body }), 250);
  });
  const answer = $derived(asked.answer);
  /** the points run in time once they are there: with what else is typed in they hold still */
  const run = new Asked<Schemas["CurveInTime"]>();
  $effect(() => {
    const { document, workloadId: workload, roomC: room_c } = build;
    if (!document || !workload || !answer || asked.busy || answer.points.length < 2) return;
    const body = { document, workload, room_c, sensor: answer.sensor, group: answer.group, points: answer.points };
    return run.ask((as) => client.POST("/api/fan-curve-in-time", { ...as, body }), 400);
  });
  const inTime = $derived(asked.busy ? null : run.answer);
  const typedIn = $derived(inTime?.settings[inTime.chosen ?? 0]);
  const percent = (share: number) => fixed(100 * share, 0);
  const sensorName = $derived(sensors.find(([id]) => id === answer?.sensor)?.[1] ?? answer?.sensor ?? "");
  const points = $derived(answer?.points.map((point) => [point.at_c, 100 * point.duty]) ?? []);
  const csv = $derived(
    `data:text/csv;charset=utf-8,${encodeURIComponent(
      ["sensor_c,duty_percent", ...points.map(([t, d]) => `${t},${fixed(d, 1)}`)].join("\n"),
    )}`,
  );

  function look(found: Schemas["FanCurveResult"]) {
    const beside = typedIn ? { hysteresis_k: typedIn.hysteresis_k, up_s: typedIn.up_s, down_s: typedIn.down_s } : {};
    const curve = {
      sensor: found.sensor,
      points: found.points.map((p): [number, number] => [p.at_c, p.duty]),
      ...beside,
    };
    void build.trial.propose(`fans follow ${sensorName}`, (draft) => {
      const workload = draft.workloads.find((w) => w.id === build.workloadId);
      if (!workload) return;
      const told = Object.fromEntries(found.fans.map((fan) => [fan, { curve }]));
      workload.movers = { ...workload.movers, ...told };
    });
  }
</script>

<section class="panel print-me mt-3" aria-label="Fan curve">
  <p class="hidden print:block">
    <strong>{build.document?.name}</strong>, {build.revision === null
      ? "no revision"
      : `revision ${build.revision}`}{build.changed ? " with later changes" : ""}, {day(new Date())}
  </p>
  {#if !fans}
    <p class="soft">This build has no fan.</p>
  {:else}
    <p class="flex flex-wrap items-center gap-x-4 gap-y-2">
      <label
        >Duty of
        <select class="field max-w-52" value={group} onchange={(e) => (groupId = e.currentTarget.value)}>
          {#each groups as [id, name] (id)}<option value={id}>{name}</option>{/each}
        </select></label
      >
      <label
        >follows
        <select class="field max-w-52" value={sensor} onchange={(e) => (sensorId = e.currentTarget.value)}>
          {#each sensors as [id, name] (id)}<option value={id}>{name}</option>{/each}
        </select></label
      >
      <NumberField
        label="every part keeps"
        unit="K"
        value={margin}
        low={-20}
        high={80}
        width={58}
        onchange={(v) => (wanted = v)}
      />
      <span class="soft"
        >up to the watts of {build.workload?.name || build.workloadId}, room {fixed(build.room, 0)} °C</span
      >
    </p>
    <Faults faults={asked.faults} alert />
    {#if answer}
      <p class="mt-2" class:asking={asked.busy} aria-busy={asked.busy}>
        <strong data-testid="curve-says">{answer.says}</strong>
      </p>
      <div class="two" class:asking={asked.busy} aria-busy={asked.busy}>
        <div>
          <Lines
            label="Duty over {sensorName}"
            lines={[{ name: "", points, main: true }]}
            xUnit="°C"
            yUnit="%"
            yMost={104}
            width={430}
            height={260}
          />
          <p class="soft text-sm">
            From start duty {percent(answer.lowest_duty)} % to the highest safe one {percent(answer.highest_duty)} %; no steeper
            than 6 % a kelvin, so that the fans do not hunt.
          </p>
        </div>
        <table class="plain" data-testid="curve-points">
          <caption class="text-left font-semibold">To type in</caption>
          <thead><tr><th>{sensorName}</th><th class="text-right">duty</th></tr></thead>
          <tbody>
            {#each answer.points as point, i (i)}
              <tr
                ><td class="num big">{fixed(point.at_c, 0)} °C</td><td class="num big text-right"
                  >{percent(point.duty)} %</td
                ></tr
              >
            {/each}
            {#if typedIn}
              <tr><td>hysteresis</td><td class="num text-right">{fixed(typedIn.hysteresis_k, 0)} K</td></tr>
              <tr><td>up in</td><td class="num text-right">{fixed(typedIn.up_s, 0)} s</td></tr>
              <tr><td>down in</td><td class="num text-right">{fixed(typedIn.down_s, 0)} s</td></tr>
            {/if}
          </tbody>
        </table>
      </div>
      {#if inTime}
        <p class="mt-2" data-testid="curve-in-time">
          <StatusMark status={inTime.chosen === null ? "too hot" : "holds"} size={13} />
          {inTime.says}
          <span class="soft"
            >Its steepest rise is {fixed(100 * inTime.slope, 0)} % a kelvin; {inTime.hunts_from === null
              ? `up to ${fixed(100 * inTime.looked_to, 0)} % nothing hunts`
              : `from ${fixed(100 * inTime.hunts_from, 0)} % on it hunts`}.</span
          >
        </p>
      {:else if run.busy || asked.busy}
        <p class="soft mt-2" role="status">Running it in time …</p>
      {/if}
      <Faults faults={run.faults} />
      <p class="buttons">
        <button class="button main" disabled={!build.editable} onclick={() => look(answer!)}
          >Look at it as a trial</button
        >
        <button class="button" onclick={() => window.print()}>Print</button>
        <a class="button" href={csv} download="fan-curve.csv">Points as CSV</a>
      </p>
      <h2 class="mt-3">Followed as a curve</h2>
      <table class="plain" class:asking={asked.busy} aria-busy={asked.busy}>
        <thead
          ><tr
            ><th>load</th><th class="text-right">{sensorName}</th><th class="text-right">speed</th><th
              class="text-right">sound</th
            ><th class="text-right">least margin</th><th>first to pass</th></tr
          ></thead
        >
        <tbody>
          {#each answer.checks as check, i (i)}
            <tr>
              <td class="num">{percent(check.load)} %</td>
              <td class="num text-right">{fixed(check.sensor_c)} °C</td>
              <td class="num text-right">{percent(check.speed_share)} %</td>
              <td class="num text-right">{fixed(check.level_dba)} dBA</td>
              <td class="num text-right"
                >{fixed(check.margin_k)} K <StatusMark
                  status={check.surely ? "holds" : check.holds ? "tight" : "too hot"}
                  size={12}
                /></td
              >
              <td class="soft">{check.tightest_name}</td>
            </tr>
          {/each}
        </tbody>
      </table>
      <p class="soft mt-2 text-sm">{answer.certifies}</p>
    {:else if !asked.faults.length}
      <p class="soft mt-2" role="status">Trying every duty at every load …</p>
    {/if}
  {/if}
</section>

<style>
  .two {
    display: grid;
    grid-template-columns: auto 260px;
    gap: 24px;
    align-items: start;
    margin-top: 8px;
  }
  .big {
    font-size: 19px;
  }
  .buttons {
    display: flex;
    gap: 8px;
    margin-top: 8px;
  }
  @media print {
    .buttons {
      display: none;
    }
  }
</style>
