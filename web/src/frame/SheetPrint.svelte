<script lang="ts">
  import { client, faultsOf, sentence, type Schemas } from "$lib/api/client";
  import { readWords } from "$lib/document/cautions";
  import { BuildState } from "$lib/state/build.svelte";
  import { Marks } from "$lib/state/marks.svelte";
  import { clock, day, fixed, sentenceCase } from "$lib/units/format";

  /** The build sheet on paper: boxes to tick, gates, cautions, leads, parts, fill and care. */
  let { params }: { params: { id: string } } = $props();
  const build = new BuildState();
  const marks = new Marks();
  let sheet = $state.raw<Schemas["BuildSheet"] | null>(null);
  let faults = $state.raw<string[]>([]);
  const id = $derived(params.id);

  async function load(of: string) {
    await build.open(of);
    const { document } = build;
    if (!document) return;
    const { data, error } = await client.POST("/api/sheet", { body: { document } });
    sheet = data ?? null;
    faults = error ? faultsOf(error).map(sentence) : [];
  }
  $effect(() => void load(id));
  $effect(() => marks.open(id));

  const numberOf = (step: string | null) => sheet?.order.steps.find((one) => one.id === step)?.number ?? "–";
  const placeOf = (step: string) => {
    const found = sheet?.order.steps.find((one) => one.id === step);
    return found?.gate ? found.name.toLowerCase() : `step ${found?.number ?? "–"}`;
  };
  const nameOf = (part: string | null) => build.document?.parts.find((one) => one.id === part)?.name ?? part ?? "";
  const box = (about: string) => {
    const kind = marks.standing.get(about)?.kind;
    return kind === "done" ? "☑" : kind === "failed" ? "☒" : "☐";
  };
  const CUT = /^cut-/;
  const faces = $derived(
    (sheet?.order.steps ?? []).filter((step) => CUT.test(step.id)).map((step) => step.id.replace(CUT, "")),
  );
</script>

<article class="paper">
  <p class="bar">
    <a class="button" href="#/build/{id}/sheet">Back to the build sheet</a>
    <button class="button main" onclick={() => print()}>Print, or save as PDF</button>
  </p>
  {#each [...build.loadFaults.map(sentence), ...faults] as fault (fault)}<p class="fault">{fault}</p>{/each}
  {#if sheet}
    <h1>{sheet.name}: build sheet</h1>
    <p class="soft">
      {day(new Date())}, revision {build.revision ?? "none"}. {sheet.certifies}
    </p>
    <h2>Cautions</h2>
    {#each sheet.cautions as caution (caution.id)}
      <p>
        ▲ {caution.text} <span class="soft">{caution.steps.map(placeOf).join(", ")}</span>
        <span class="sign"
          >{readWords(build.document, caution.id, marks.readBy(caution.id)) ?? "read: ______________"}</span
        >
      </p>
    {:else}<p class="soft">None of them applies to this build.</p>{/each}
    <h2>Steps</h2>
    <table class="plain">
      <thead><tr><th></th><th></th><th>Step</th><th>tool</th><th>N·m</th><th>min</th><th>took</th></tr></thead>
      <tbody>
        {#each sheet.order.steps as step (step.id)}
          {@const mark = marks.standing.get(step.id)}
          <tr class:gate={step.gate}>
            <td class="box">{box(step.id)}</td>
            <td class="num">{step.number ?? ""}</td>
            <td
              ><b>{step.name}</b>{#if step.gate && step.before}<span class="soft">, before {numberOf(step.before)}</span
                >{/if}
              {#if step.note}<br /><span class="soft">{step.note}</span>{/if}
              {#if mark?.word}<br />{mark.word}{/if}</td
            >
            <td>{step.tool}</td>
            <td class="num">{step.torque_nm ?? ""}</td>
            <td class="num">{Math.round(step.minutes)}</td>
            <td class="num">{mark?.minutes ?? ""}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    <h2>Leads and tubes</h2>
    <table class="plain">
      <thead><tr><th></th><th>from</th><th>to</th><th>kind</th><th>mm</th><th>plug</th><th>step</th></tr></thead>
      <tbody>
        {#each sheet.leads as lead (lead.lead)}
          <tr
            ><td class="box">☐</td><td>{lead.from_name}</td><td>{lead.to_name}</td><td>{lead.of_class}</td><td
              class="num">{lead.stated_mm ?? lead.order_mm ?? "measure"}</td
            ><td>{lead.plug.replace("_", " ") || lead.socket}</td><td class="num">{numberOf(lead.step)}</td></tr
          >
        {/each}
        {#each sheet.joints as joint (joint.loop)}
          <tr
            ><td class="box">☐</td><td colspan="6"
              >{joint.name}: {joint.tube_m} m of tube, {joint.fittings} fittings, {joint.coupling_pairs} couplings</td
            ></tr
          >
          {#each joint.pieces as piece (piece.name)}
            <tr
              ><td class="box">☐</td><td colspan="3">{piece.name}</td><td class="num">{piece.cut_mm ?? "measure"}</td
              ><td colspan="2">cut</td></tr
            >
          {/each}
        {/each}
      </tbody>
    </table>
    <h2>Parts</h2>
    <table class="plain">
      <thead><tr><th></th><th>part</th><th>class</th><th>step</th><th>price</th><th>g</th><th>in hand</th></tr></thead>
      <tbody>
        {#each sheet.parts as row (row.id)}
          <tr
            ><td class="box">{row.stock === "in_hand" ? "☑" : "☐"}</td><td>{row.name}</td><td
              >{row.of_class}{#if row.assumed.length}<span class="soft"
                  >{row.of_class && ", "}{row.assumed.length}
                  {row.assumed.length === 1 ? "figure" : "figures"} assumed</span
                >{/if}</td
            ><td class="num">{numberOf(row.step)}</td><td class="num">{row.price ?? "?"}</td><td class="num"
              >{row.mass_g === null ? "?" : Math.round(row.mass_g)}</td
            ><td>{row.stock?.replace("_", " ") ?? "?"}{row.due_on ? `, ${day(row.due_on)}` : ""}</td></tr
          >
        {/each}
      </tbody>
    </table>
    <p>
      Money <b class="num">{fixed(sheet.sums.money, 0)}</b> ({sheet.sums.prices_unknown} unknown), mass
      <b class="num">{fixed(sheet.sums.mass_g / 1000)} kg</b> ({sheet.sums.masses_unknown} unknown), planned
      <b class="num">{fixed(sheet.order.minutes / 60)} h</b>, upkeep
      <b class="num">{fixed(sheet.upkeep_hours_a_year)} h</b> a year.
    </p>
    {#each sheet.ready_made as one (one.id)}
      <p>
        Ready-made instead: {one.name}{#if one.price}, <b class="num">{one.price}</b>{/if}{#if one.work_hours},
          {one.work_hours} h{/if}
      </p>
    {/each}
    {#each sheet.fills as plan (plan.loop)}
      <h2>Fill plan of {plan.name}</h2>
      <p>
        {fixed(plan.volume_ml / 1000, 2)} ± {fixed(plan.half_ml / 1000, 2)} l of {plan.coolant}; buy {fixed(
          plan.buy_ml / 1000,
          1,
        )} l. In at {nameOf(plan.fill_at)}. {sentenceCase(plan.inhibitor)}.
      </p>
      {#each plan.steps as step (step.id)}
        <p>
          {box(step.id)} <b>{step.name}</b>{#if step.watch_h}, watched {step.watch_h} h{/if}. {step.note}
        </p>
      {/each}
      {#each plan.stops as stop (stop)}<p>▲ {stop}</p>{/each}
    {/each}
    <h2>Care</h2>
    {#each sheet.care as due (due.id)}
      <p>
        ☐ {due.what}{due.name ? `: ${due.name}` : ""}, every {Math.round(due.days)} days{due.note && `; ${due.note}`}
      </p>
    {:else}<p class="soft">Nothing of this build is due by its classes.</p>{/each}
    <h2>Before it travels</h2>
    {#each sheet.travel.before as line (line)}<p>☐ {line}</p>{/each}
    {#each sheet.travel.heavy as heavy (heavy.part)}<p>☐ {heavy.name}: {heavy.do}</p>{/each}
    {#each sheet.travel.after as line (line)}<p>☐ after: {line}</p>{/each}
    {#if faces.length}
      <p class="soft">Templates at 1:1 of {faces.join(", ")} are made in Fit, with a scale bar to measure first.</p>
    {/if}
    <p class="soft">Printed {day(new Date())}, {clock(new Date())}.</p>
  {/if}
</article>

<style>
  .paper {
    max-width: 820px;
    margin: 0 auto;
    padding: 20px;
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 4px;
    overflow-x: auto;
  }
  .bar {
    display: flex;
    justify-content: space-between;
  }
  h2 {
    margin-top: 14px;
  }
  .box {
    font-size: 18px;
    width: 26px;
  }
  .gate td {
    background: var(--sunk);
  }
  .sign {
    float: right;
    font-size: 13px;
  }
  @media print {
    .bar {
      display: none;
    }
    tr,
    p {
      break-inside: avoid;
    }
    .gate td {
      border-top: 2px solid var(--ink);
      border-bottom: 2px solid var(--ink);
    }
  }
</style>
