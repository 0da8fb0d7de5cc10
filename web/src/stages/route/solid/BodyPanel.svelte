<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import Lines from "$lib/charts/Lines.svelte";
  import { toggleBond } from "$lib/document/ways";
  import { along } from "$lib/drawing/scale";
  import { celsius, fixed, kelvins, watts } from "$lib/units/format";
  import Faults from "$lib/ui/Faults.svelte";
  import SinkSection from "./SinkSection.svelte";

  /** A sink or panel: its section to scale, where its heat goes, what it holds, which pitch would be best. */
  let { build, body }: { build: BuildState; body: Schemas["BodyResult"] } = $props();
  const asked = new Asked<Schemas["SinkCurve"]>();
  const others = $derived((build.result?.bodies ?? []).filter((other) => other.address !== body.address));
  const nameOf = (id: string) =>
    build.result?.zones.find((z) => z.address === id)?.name ?? others.find((b) => b.address === id)?.name ?? id;
  const still = $derived(body.ways.some((way) => way.side === "outside"));

  $effect(() => {
    const document = build.document;
    const question = { part: body.address, workload: build.workloadId, room_c: build.roomC };
    if (!document || !still) return;
    return asked.ask((as) => client.POST("/api/sink-curve", { ...as, body: { document, ...question } }));
  });

  const NAMES: Record<string, string> = {
    upright: "upright",
    lying_fins_up: "fins up",
    lying_fins_down: "fins down",
    on_edge: "on edge",
    vertical: "vertical",
    facing_up: "facing up",
    facing_down: "facing down",
  };
  const curve = $derived(asked.answer);
  const lines = $derived(
    (curve?.curves ?? []).map((item) => ({
      name: NAMES[item.stands] ?? item.stands,
      points: item.points,
      main: item.stands === curve?.stands,
      dashed: !item.inside,
    })),
  );
  const reach = $derived(Math.min(80, Math.max(20, (curve?.point[0] ?? 20) * 2)));
  const best = $derived(curve?.pitch_curve.find((p) => p[0] === curve?.best_pitch_mm));
  const here = $derived(curve?.pitch_curve.length ? along(curve.pitch_curve)(curve.pitch_mm ?? 0) : null);
</script>

<SinkSection {body} />
<p>
  <span class="num">{celsius(body.temperature_c)}</span> on average, <span class="num">{celsius(body.hottest_c)}</span>
  where it is hottest; gives off <span class="num">{watts(body.watts)}</span>
</p>
{#if body.touch}
  <p class={body.touch.says === "too hot" ? "fault" : "soft"}>
    Touched for {body.touch.contact.replace("_", " ")}: {body.touch.limit_c === null
      ? "no burn threshold is known here"
      : `burns from ${celsius(body.touch.limit_c, 0)}`}{body.touch.says === "holds" ? ", holds" : ""}
    <span class="soft text-sm">(limit by ISO 13732-1)</span>
  </p>
{/if}
<table class="plain mt-2">
  <thead><tr><th>side</th><th class="text-right">by air</th><th class="text-right">by radiation</th></tr></thead>
  <tbody>
    {#each body.ways as way, i (i)}
      <tr>
        <td>{way.side} <span class="soft">to {nameOf(way.air)}</span></td>
        {#if way.side === "joined"}
          <td colspan="2" class="num text-right">{watts(way.watts)} <span class="soft">by metal</span></td>
        {:else}
          <td class="num text-right">{watts(way.convection_w)}</td>
          <td class="num text-right">{watts(way.radiation_w)}</td>
        {/if}
      </tr>
    {/each}
  </tbody>
</table>
{#if others.length}
  <label class="soft mt-1 block"
    >Join to, or part from
    <select
      class="field"
      value=""
      disabled={!build.editable}
      onchange={(e) => {
        const other = e.currentTarget.value;
        if (other)
          build.edit(`${body.name}: seam`, (draft) =>
            toggleBond(draft, body.address, other, Math.round(Math.min(body.width_mm, body.height_mm))),
          );
        e.currentTarget.value = "";
      }}
    >
      <option value="">…</option>
      {#each others as other (other.address)}
        <option value={other.address}
          >{other.name}{body.ways.some((way) => way.air === other.address) ? " (joined)" : ""}</option
        >
      {/each}
    </select></label
  >
{/if}
<details class="mt-1">
  <summary class="soft">Laws, their ranges and sources</summary>
  {#each body.ways.filter((way) => way.side !== "joined") as way, i (i)}
    <p class="text-sm">
      <strong>{way.side}</strong>: {way.law.name}, film <span class="num">{fixed(way.film_w_m2k)} W/m²K</span>. Holds
      for
      {way.law.valid}{#if !way.law.inside}: <span class="fault">used outside that range here</span>{/if}.
      <span class="soft">{way.law.source}</span>
    </p>
  {/each}
  {#if body.fin_efficiency !== null}<p class="text-sm">
      Fin efficiency <span class="num">{fixed(body.fin_efficiency, 2)}</span>
    </p>{/if}
</details>
<Faults faults={asked.faults} />
{#if curve}
  <h3>What it holds over its air</h3>
  <Lines
    label="Watts over kelvins, working point {fixed(curve.point[1])} W at {kelvins(curve.point[0])}"
    {lines}
    point={curve.point}
    xUnit="K"
    yUnit="W"
    xMost={reach}
  />
  {#if curve.pitch_curve.length && best && here !== null}
    <h3>Fin pitch at {kelvins(curve.point[0], 0)}</h3>
    <Lines
      label="Watts over fin pitch"
      lines={[{ name: "", points: curve.pitch_curve, main: true }]}
      point={[curve.pitch_mm ?? 0, here]}
      mark={{ x: curve.best_pitch_mm ?? 0, text: "most" }}
      xUnit="mm"
      yUnit="W"
      height={150}
    />
    <p class="text-sm">
      {#if Math.abs(best[1]! / here - 1) < 0.02}Its pitch is right: another wins less than 2 %.
      {:else}A pitch of <span class="num">{fixed(curve.best_pitch_mm)} mm</span> would give off
        <span class="num">{fixed(100 * (best[1]! / here - 1), 0)} %</span> more.{/if}
    </p>
  {/if}
{/if}

<style>
  h3 {
    font-weight: 650;
    margin: 10px 0 2px;
  }
  summary {
    cursor: pointer;
  }
</style>
