<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { valueOf, type Joint, type PlateContact } from "$lib/document/build";
  import { addJoint, changeContact, changeJoint, measuredMm, NEIGHBOURS, removeJoint } from "$lib/document/fit";
  import NumberField from "$lib/ui/NumberField.svelte";
  import StatusMark from "$lib/ui/StatusMark.svelte";
  import { fixed, significant } from "$lib/units/format";
  import ContactView from "./ContactView.svelte";
  import { contactHead, contactTone, JOINT_TONE, STATUS } from "./words";

  /** What lies under a plate: the cut, the joint in view with its row of pads, and what goes to the network. */
  let { build, contact, fit }: { build: BuildState; contact: PlateContact; fit: Schemas["ContactFit"] } = $props();
  let chosen = $state<string | null>(null);
  const view = $derived(
    fit.joints.find((joint) => joint.joint === chosen) ??
      fit.joints.find((j) => j.joint === fit.worst) ??
      fit.joints[0]!,
  );
  const joint = $derived(contact.joints.find((one) => one.id === view.joint));
  const first = $derived(contact.joints[0]?.id === view.joint);
  const tone = $derived(contactTone(fit));
  const steps = $derived(Object.fromEntries(contact.joints.map((one) => [one.id, valueOf(one.step_mm) ?? 0])));
  const layers = $derived(build.document?.parts.filter((part) => part.kind === "interface") ?? []);
  const place = $derived.by(() => {
    const route = build.document?.routes.find((one) =>
      one.hops.some((hop) => hop.part && hop.part === joint?.interface),
    );
    return build.result?.places.find((one) => one.address === route?.place);
  });
  const FILLERS: Joint["filler"][] = ["paste", "pad", "putty", "nothing"];
  const HARDNESS: [NonNullable<Joint["hardness"]>, string][] = [
    ["very_soft", "very soft, 00-20 to 30"],
    ["soft", "soft, 00-40 to 50"],
    ["middle", "middle, 00-55 to 65"],
    ["firm", "firm, 00-70 to 80"],
  ];
  const edit = (what: string, change: Partial<Joint>) =>
    build.edit(`${view.name}: ${what}`, (draft) => changeJoint(draft, view.joint, change));
  const withPad = (mm: number) =>
    build.trial.propose(`${view.name}: pad ${mm} mm`, (draft) => changeJoint(draft, view.joint, { pad_mm: mm }));
</script>

<header>
  <h2>{fit.name}</h2>
  <span class="soft">heights in mm</span>
  <span class="grow"></span>
  <select
    class="field"
    aria-label="Add a neighbour"
    disabled={!build.editable}
    onchange={(e) => {
      const kind = NEIGHBOURS.find((one) => one.name === e.currentTarget.value);
      e.currentTarget.value = "";
      if (kind) build.edit(`${kind.name} under the plate`, (draft) => addJoint(draft, contact.id, kind));
    }}
  >
    <option value="">+ neighbour …</option>
    {#each NEIGHBOURS as kind (kind.name)}<option>{kind.name}</option>{/each}
  </select>
</header>
<p class={tone} data-testid="contact-says">
  <StatusMark status={STATUS[tone]} size={15} /> <strong>{contactHead(fit)}</strong>
</p>
<ContactView {fit} {steps} selected={view.joint} onselect={(id) => (chosen = id)} />
{#if joint}
  <div class="line">
    <strong>{view.name}</strong>
    <NumberField
      label="high"
      value={valueOf(joint.height_mm)}
      unit="mm"
      low={0}
      high={200}
      width={56}
      disabled={!build.editable}
      onchange={(mm) => edit("height", { height_mm: measuredMm(mm, 0.1) })}
    />
    {#if !first}
      <NumberField
        label="plate stands back"
        value={valueOf(joint.step_mm) ?? 0}
        unit="mm"
        low={-50}
        high={200}
        width={56}
        disabled={!build.editable}
        onchange={(mm) => edit("step of the plate", { step_mm: measuredMm(mm, 0.05) })}
      />
      <select
        class="field"
        aria-label="Filled with"
        value={joint.filler ?? "nothing"}
        disabled={!build.editable}
        onchange={(e) => {
          const filler = e.currentTarget.value as Joint["filler"];
          edit(`filled with ${filler}`, { filler, ...(filler === "pad" && !joint!.pad_mm ? { pad_mm: 1 } : {}) });
        }}
      >
        {#each FILLERS as filler (filler)}<option>{filler}</option>{/each}
      </select>
    {/if}
    {#if joint.filler === "pad"}
      <NumberField
        label="pad"
        value={valueOf(joint.pad_mm)}
        unit="mm"
        low={0.1}
        high={20}
        width={52}
        disabled={!build.editable}
        onchange={(mm) => edit("pad", { pad_mm: mm })}
      />
      <select
        class="field"
        aria-label="Hardness"
        value={joint.hardness ?? "soft"}
        disabled={!build.editable}
        onchange={(e) => edit("hardness", { hardness: e.currentTarget.value as Joint["hardness"] })}
      >
        {#each HARDNESS as [id, text] (id)}<option value={id}>{text}</option>{/each}
      </select>
      <NumberField
        label="k"
        value={valueOf(joint.conductivity_w_mk)}
        unit="W/m·K"
        low={0.1}
        high={50}
        width={48}
        placeholder="5"
        disabled={!build.editable}
        onchange={(k) => edit("conductivity", { conductivity_w_mk: k })}
      />
    {/if}
    <label
      >layer
      <select
        class="field layer"
        value={joint.interface ?? ""}
        disabled={!build.editable}
        onchange={(e) => edit("its layer in Route", { interface: e.currentTarget.value || null })}
      >
        <option value="">none of Route</option>
        {#each layers as part (part.id)}<option value={part.id}>{part.name || part.id}</option>{/each}
      </select></label
    >
    {#if !first}
      <button
        class="link"
        disabled={!build.editable}
        onclick={() => build.edit(`${view.name} out`, (draft) => removeJoint(draft, view.joint))}>remove</button
      >
    {/if}
  </div>
  {#if view.choices.length}
    <div class="pads" role="group" aria-label="Pads for {view.name}">
      {#each view.choices as choice (choice.pad_mm)}
        {@const now = Math.abs(choice.pad_mm - (view.pad_mm ?? 0)) < 0.01}
        <button
          class="pad {JOINT_TONE[choice.says]}"
          class:now
          class:take={view.take_mm === choice.pad_mm}
          disabled={!build.editable}
          aria-pressed={now}
          onclick={() => void withPad(choice.pad_mm)}
        >
          <span class="num">{significant(choice.pad_mm)}</span>
          <span class="how"
            ><StatusMark status={STATUS[JOINT_TONE[choice.says]]} size={11} />
            {choice.says === "floats"
              ? fixed(choice.pad_mm * choice.pressed, 2)
              : choice.says === "lifts"
                ? "lifts"
                : `${fixed(100 * choice.pressed, 0)} %`}</span
          >
        </button>
      {/each}
    </div>
    <p class="soft small">
      {view.take_mm === null
        ? "No pad of the stock fits this gap: take putty."
        : `Take a pad of ${significant(view.take_mm)} mm.`}
    </p>
  {/if}
  <p class="small" data-testid="joint-says">
    Gap <span class="num">{fixed(view.gap_mm, 2)} ± {fixed(view.half_mm, 2)}</span>
    mm{#if view.resistance_mm2k_w !== null && !first}, <span class="num">{fixed(view.resistance_mm2k_w, 0)}</span> mm²·K/W{/if}{#if place};
      {place.name}
      <strong class="num">{fixed(place.temperature_c)} °C</strong
      >{:else if joint.interface === null || joint.interface === undefined}<span class="soft"
        >; name its layer and the prediction follows</span
      >{/if}
  </p>
{/if}
<div class="line">
  <NumberField
    label="Mounting force"
    value={valueOf(contact.force_n)}
    unit="N"
    low={1}
    high={5000}
    width={60}
    placeholder="–"
    disabled={!build.editable}
    onchange={(n) => build.edit("mounting force", (draft) => changeContact(draft, contact.id, { force_n: n }))}
    onclear={() => build.edit("no mounting force", (draft) => changeContact(draft, contact.id, { force_n: null }))}
  />
  <NumberField
    label="screws"
    value={contact.screws_used ?? contact.screws ?? 4}
    unit="of {contact.screws ?? 4}"
    low={0}
    high={contact.screws ?? 4}
    width={40}
    disabled={!build.editable}
    onchange={(n) =>
      build.edit("screws in use", (draft) => changeContact(draft, contact.id, { screws_used: Math.round(n) }))}
  />
  {#if fit.chip_n !== null}
    <span class="soft"
      >pads take {fixed(fit.pads_n, 0)} N, the chip keeps <span class="num">{fixed(fit.chip_n, 0)} N</span></span
    >
  {/if}
  {#if fit.bond_factor > 1.02}<span class="soft">bond line × {fixed(fit.bond_factor, 2)}</span>{/if}
</div>

<style>
  header,
  .line {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 5px 10px;
    font-size: 13.5px;
  }
  header {
    font-size: 15px;
  }
  .grow {
    flex: 1;
  }
  .layer {
    max-width: 150px;
  }
  .good {
    color: var(--holds);
  }
  .warn {
    color: var(--tight);
  }
  .bad {
    color: var(--too-hot);
  }
  .pads {
    display: flex;
    flex-wrap: wrap;
    gap: 4px;
    margin: 6px 0 2px;
  }
  .pad {
    display: grid;
    justify-items: center;
    border-radius: 7px;
    border: 1px solid transparent;
    padding: 2px 7px;
    cursor: pointer;
  }
  .pad .num {
    color: var(--ink);
    font-weight: 650;
  }
  .pad.now {
    background: var(--sunk);
  }
  .pad.take {
    border-color: var(--accent);
  }
  .how {
    font-size: 12px;
    white-space: nowrap;
  }
  .small {
    font-size: 13.5px;
  }
</style>
