<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import { addContact, addSlot, place, type Point } from "$lib/document/fit";
  import Faults from "$lib/ui/Faults.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import StatusMark from "$lib/ui/StatusMark.svelte";
  import TrialPanel from "$lib/ui/TrialPanel.svelte";
  import { fixed } from "$lib/units/format";
  import ContactPanel from "./ContactPanel.svelte";
  import HoldingPanel from "./HoldingPanel.svelte";
  import InPlacePanel from "./InPlacePanel.svelte";
  import LeadsPanel from "./LeadsPanel.svelte";
  import Adapters from "./Adapters.svelte";
  import Templates from "./Templates.svelte";
  import PlacePanel from "./PlacePanel.svelte";
  import PlanView from "./PlanView.svelte";
  import SlotPanel from "./SlotPanel.svelte";
  import { contactHead, contactTone, STATUS, toneOf } from "./words";

  let { build }: { build: BuildState } = $props();
  const asked = new Asked<Schemas["Fit"]>();
  const fit = $derived(asked.answer);
  let chosen = $state<string | null>(null);
  let under = $state<string | null>(null);
  let selected = $state<string | null>(null);
  let lead = $state<string | null>(null);
  let moved = $state.raw<{ id: string; at: Point } | null>(null);
  let naming = $state({ name: "", gap: undefined as number | undefined });
  const slots = $derived(build.document?.slots ?? []);
  const slot = $derived(slots.find((one) => one.id === chosen) ?? slots[0]);
  const contacts = $derived(build.document?.contacts ?? []);
  const contact = $derived(contacts.find((one) => one.id === under) ?? contacts[0]);
  const contactFit = $derived(fit?.contacts.find((one) => one.contact === contact?.id));
  const plates = $derived(
    (build.document?.parts ?? []).filter(
      (part) =>
        ["plate", "cooler", "sink", "spreader"].includes(part.kind) && !contacts.some((one) => one.plate === part.id),
    ),
  );
  const inside = $derived(build.document?.housing?.inner_size_mm as Point | null | undefined);
  const SIDES = [
    ["wide", 0],
    ["deep", 1],
    ["high", 2],
  ] as const;
  const fitOf = (id: string) => fit?.slots.find((one) => one.slot === id);

  $effect(() => {
    let document = build.document;
    if (!document) return;
    const to = moved;
    if (to) {
      document = structuredClone(document);
      place(document, to.id, to.at);
    }
    const body = { document };
    return asked.ask((as) => client.POST("/api/fit", { ...as, body }), to ? 0 : 60);
  });

  function create() {
    const { name, gap } = naming;
    if (gap === undefined) return;
    build.edit("new slot", (draft) => (chosen = addSlot(draft, name.trim() || `Slot ${slots.length + 1}`, gap)));
    naming = { name: "", gap: undefined };
  }

  const copyLimits = () =>
    void navigator.clipboard?.writeText(
      (fit?.limits ?? []).map((limit) => `${limit.what}\t${fixed(limit.largest_mm, 0)} mm`).join("\n"),
    );
</script>

<div class="flex items-baseline gap-3">
  <h1>Fit</h1>
  <p class="soft">what goes in, what touches, what is left</p>
</div>
<Faults faults={asked.faults} />
<div class="slots" role="group" aria-label="Slots">
  {#each slots as one (one.id)}
    {@const its = fitOf(one.id)}
    <button
      class="slot"
      class:on={one.id === slot?.id}
      aria-pressed={one.id === slot?.id}
      onclick={() => (chosen = one.id)}
    >
      {one.name || one.id}
      {#if its}<StatusMark status={STATUS[toneOf(its.says)]} size={13} />
        <span class="num">{its.left_mm === null ? "?" : `${fixed(its.left_mm)} mm`}</span>{/if}
    </button>
  {/each}
  {#if build.editable}
    <form
      class="new"
      onsubmit={(e) => {
        e.preventDefault();
        create();
      }}
    >
      <input
        class="field"
        style:width="120px"
        aria-label="Name of a new slot"
        placeholder="new slot"
        bind:value={naming.name}
      />
      <NumberField
        label="Gap of a new slot"
        hideLabel
        value={naming.gap}
        unit="mm"
        low={0.1}
        high={5000}
        width={60}
        placeholder="gap"
        onchange={(mm) => (naming.gap = mm)}
      />
      <button class="button" disabled={naming.gap === undefined}>+ Slot</button>
    </form>
  {/if}
</div>
{#if slot}
  <section class="panel" aria-label="Slot in view">
    {#key slot.id}<SlotPanel {build} {slot} fit={fitOf(slot.id)} onremoved={() => (chosen = null)} />{/key}
  </section>
{:else}
  <section class="panel">
    <p>
      <strong>A slot is a gap that parts stand in one behind the other.</strong> Measure it with a ruler, name it and type
      its millimetres above; then add what stands in it: fan, radiator, filter, pads. No part needs a place for that.
    </p>
  </section>
{/if}
<TrialPanel {build} />
<div class="below">
  <div class="side">
    <section class="panel" aria-label="Plan">
      {#if fit}
        <PlanView {build} plan={fit.plan} leads={fit.leads} {lead} bind:selected onmoving={(to) => (moved = to)} />
        {#if !fit.plan.placed.length}
          <p class="soft">
            {fit.plan.inside_mm
              ? "No part has a place yet: choose one below, then drag it."
              : "Measure the housing first."}
          </p>
        {/if}
        <div class="inside">
          <span class="soft">Housing, inside</span>
          {#each SIDES as [label, axis] (label)}
            <NumberField
              {label}
              value={inside?.[axis]}
              unit="mm"
              low={1}
              high={10000}
              width={62}
              disabled={!build.editable}
              onchange={(mm) =>
                build.edit(`housing ${label}`, (draft) => {
                  const now = draft.housing?.inner_size_mm ?? [300, 200, 200];
                  draft.housing = {
                    ...draft.housing,
                    inner_size_mm: now.map((old, i) => (i === axis ? mm : old)) as Point,
                  };
                })}
            />
          {/each}
        </div>
        <PlacePanel {build} plan={fit.plan} bind:selected />
        {#if fit.plan.mass_g}
          <p class="soft small">
            Placed parts weigh <span class="num"
              >{fixed(fit.plan.mass_g / 1000, 1)} ± {fixed(fit.plan.mass_half_g / 1000, 1)} kg</span
            >{#if fit.plan.centre_of_mass_mm}, their centre at {fit.plan.centre_of_mass_mm
                .map((mm) => fixed(mm, 0))
                .join(", ")} mm{/if}.
          </p>
        {/if}
      {:else}<p class="soft">Measuring …</p>{/if}
    </section>
    {#if fit}<LeadsPanel {build} {fit} bind:chosen={lead} />
      <InPlacePanel {build} {fit} />{/if}
  </div>
  <div class="side">
    <section class="panel" aria-label="Contact under a plate">
      {#if contacts.length > 1}
        <div class="flex flex-wrap gap-2">
          {#each contacts as one (one.id)}
            {@const its = fit?.contacts.find((c) => c.contact === one.id)}
            <button
              class="slot"
              class:on={one.id === contact?.id}
              onclick={() => (under = one.id)}
              title={its ? contactHead(its) : ""}
              >{one.name || one.id}
              {#if its}<StatusMark status={STATUS[contactTone(its)]} size={12} />{/if}</button
            >
          {/each}
        </div>
      {/if}
      {#if contact && contactFit}
        {#key contact.id}<ContactPanel {build} {contact} fit={contactFit} />{/key}
      {:else}
        <h2>Under a plate</h2>
        <p class="soft">
          Heights of chip, memory and regulators tell whether a plate touches, floats, or rests on a neighbour.
        </p>
      {/if}
      {#if build.editable && plates.length}
        <label class="soft small"
          >Look under
          <select
            class="field"
            onchange={(e) => {
              const part = plates.find((one) => one.id === e.currentTarget.value);
              e.currentTarget.value = "";
              if (part)
                build.edit(
                  `contact of ${part.name || part.id}`,
                  (draft) => (under = addContact(draft, part.id, part.name || part.id)),
                );
            }}
          >
            <option value="">a plate …</option>
            {#each plates as part (part.id)}<option value={part.id}>{part.name || part.id}</option>{/each}
          </select></label
        >
      {/if}
    </section>
    {#if fit?.limits.length}
      <section class="panel" aria-label="What else would fit">
        <div class="flex items-baseline gap-3">
          <h2>What else would fit</h2>
          <span class="grow"></span>
          <button class="link" onclick={copyLimits}>Copy limits</button>
        </div>
        <table>
          <tbody>
            {#each fit.limits as limit, i (i)}
              <tr
                ><th scope="row">{limit.what}</th><td class="num"
                  >{limit.largest_mm ? fixed(limit.largest_mm, 0) : "none"}</td
                ><td class="soft">mm, now {fixed(limit.now_mm, 0)}</td></tr
              >
            {/each}
          </tbody>
        </table>
      </section>
    {/if}
    <HoldingPanel {build} />
  </div>
</div>
<section class="panel" aria-label="Templates and adapters">
  <h2>To make</h2>
  <Templates {build} />
  <Adapters {build} />
</section>

<style>
  .slots {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
    margin: 6px 0 8px;
  }
  .slot {
    border-radius: 8px;
    background: var(--sunk);
    padding: 5px 12px;
    font-weight: 650;
    cursor: pointer;
    display: inline-flex;
    gap: 7px;
    align-items: center;
  }
  .slot.on {
    box-shadow: inset 0 0 0 2px var(--ink);
    background: var(--panel);
  }
  .new {
    display: flex;
    gap: 6px;
    align-items: baseline;
  }
  .below {
    display: grid;
    grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr);
    gap: 12px;
    margin: 12px 0;
  }
  .side {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 12px;
    align-content: start;
  }
  .small {
    font-size: 13.5px;
  }
  .inside {
    display: flex;
    flex-wrap: wrap;
    gap: 5px 10px;
    align-items: baseline;
    font-size: 13.5px;
    margin-top: 6px;
  }
  table {
    width: 100%;
    font-size: 14px;
  }
  th {
    text-align: left;
    font-weight: 400;
    padding: 3px 0;
  }
  td.num {
    text-align: right;
    font-weight: 650;
    padding-right: 6px;
  }
  tr + tr {
    border-top: 1px solid var(--line);
  }
  @media (max-width: 900px) {
    .below {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
