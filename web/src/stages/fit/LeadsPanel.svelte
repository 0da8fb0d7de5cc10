<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import type { Lead } from "$lib/document/build";
  import { partsOf } from "$lib/document/build";
  import { addLead, removeLead } from "$lib/document/leads";
  import type { BuildState } from "$lib/state/build.svelte";
  import { outlines } from "$lib/state/outlines.svelte";
  import StatusMark from "$lib/ui/StatusMark.svelte";
  import { fixed } from "$lib/units/format";
  import { leadLength, leadSays, leadTone } from "./inPlace";
  import LeadEditor from "./LeadEditor.svelte";
  import TubeBends from "./TubeBends.svelte";
  import { STATUS } from "./words";

  /** Leads and tubes: how long each is, what is wrong with it, and the points of the one in view. */
  let {
    build,
    fit,
    chosen = $bindable(),
  }: { build: BuildState; fit: Schemas["Fit"]; chosen: string | null } = $props();
  void outlines.load();
  const leads = $derived(build.document?.leads ?? []);
  const lead = $derived(leads.find((one) => one.id === chosen));
  const parts = $derived((build.document?.parts ?? []).filter((part) => part.kind !== "interface"));
  const tubes = $derived(build.document ? partsOf(build.document, "tube") : []);
  let from = $state("");
  let to = $state("");
  let kind = $state("lead:feed_8");
  const fitOf = (id: string) => fit.leads.find((one) => one.lead === id);

  function create() {
    const [what, id] = kind.split(":");
    const own: Partial<Lead> = what === "tube" ? { tube: id, outside_mm: 16 } : { class: id as Lead["class"] };
    build.edit("new lead", (draft) => (chosen = addLead(draft, from, to, own)));
  }
</script>

<section class="panel" aria-label="Leads and tubes">
  <h2>Leads and tubes</h2>
  {#if leads.length}
    <ul>
      {#each leads as one (one.id)}
        {@const its = fitOf(one.id)}
        {#if its}
          {@const says = leadSays(its)[0]}
          <li class:on={one.id === chosen}>
            <StatusMark status={STATUS[leadTone(its)]} size={13} />
            <button
              class="what"
              aria-pressed={one.id === chosen}
              onclick={() => (chosen = one.id === chosen ? null : one.id)}
              ><strong>{its.name}</strong>
              <span class="num">{leadLength(its)}</span>{#if says}<span class={says.tone}>: {says.text}</span
                >{/if}</button
            >
            {#if build.editable}
              <button
                class="link"
                onclick={() => build.edit(`${its.name} gone`, (draft) => removeLead(draft, one.id))}
                aria-label="Remove {its.name}">remove</button
              >
            {/if}
          </li>
        {/if}
      {/each}
    </ul>
  {:else}
    <p class="soft">
      A lead or tube has a way through the housing: what it needs in length, where it kinks, which blades it comes near,
      whether a hand can turn its fittings.
    </p>
  {/if}
  {#each fit.tubes.filter((tube) => tube.longer) as tube (tube.tube)}
    <p class="warn">
      {tube.name} is told {fixed(tube.stated_mm / 1000, 2)} m in the loop; as laid its pieces are {fixed(
        tube.laid_mm / 1000,
        2,
      )} m.
      {#if build.editable}
        <button
          class="link"
          onclick={() =>
            build.edit(`length of ${tube.name}`, (draft) => {
              const own = draft.parts.find((part) => part.id === tube.tube);
              if (own?.kind === "tube")
                own.length_m = { value: Math.round(tube.laid_mm) / 1000, plus_minus: "5%", from: "measured" };
            })}>Take it as laid</button
        >
      {/if}
    </p>
  {/each}
  {#if lead && fitOf(lead.id)}
    {#key lead.id}<LeadEditor {build} {lead} fit={fitOf(lead.id)!} />{/key}
  {/if}
  {#if build.editable}
    <form
      class="line"
      onsubmit={(e) => {
        e.preventDefault();
        create();
      }}
    >
      <select class="field" aria-label="Kind of a new lead" bind:value={kind}>
        <optgroup label="Leads">
          {#each outlines.leads as one (one.id)}<option value="lead:{one.id}">{one.name}</option>{/each}
        </optgroup>
        {#if tubes.length}
          <optgroup label="Tubes of the loop">
            {#each tubes as tube (tube.id)}<option value="tube:{tube.id}">{tube.name || tube.id}</option>{/each}
          </optgroup>
        {/if}
      </select>
      <label
        >from <select class="field part" aria-label="Lead from" bind:value={from}>
          <option value="">a part …</option>
          {#each parts as part (part.id)}<option value={part.id}>{part.name || part.id}</option>{/each}
        </select></label
      >
      <label
        >to <select class="field part" aria-label="Lead to" bind:value={to}>
          <option value="">a part …</option>
          {#each parts as part (part.id)}<option value={part.id}>{part.name || part.id}</option>{/each}
        </select></label
      >
      <button class="button" disabled={!from || !to}>+ Lead</button>
    </form>
  {/if}
  <TubeBends />
</section>

<style>
  ul {
    font-size: 14px;
  }
  li {
    display: flex;
    gap: 7px;
    align-items: baseline;
    padding: 3px 4px;
    border-radius: 6px;
  }
  li.on {
    background: var(--sunk);
  }
  .what {
    flex: 1;
    text-align: left;
    cursor: pointer;
  }
  .bad {
    color: var(--too-hot);
  }
  .warn {
    color: var(--tight);
  }
  p {
    font-size: 14px;
  }
  .line {
    display: flex;
    flex-wrap: wrap;
    gap: 6px 10px;
    align-items: baseline;
    font-size: 14px;
    margin-top: 8px;
  }
  .part {
    max-width: 150px;
  }
</style>
