<script lang="ts">
  import { addressOf, setAt } from "$lib/document/addresses";
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import { type Figure } from "$lib/document/build";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { labelOf } from "$lib/document/fields";
  import { fixed } from "$lib/units/format";
  import Faults from "$lib/ui/Faults.svelte";

  /** Which uncertain figure makes a band wide, and a field beside each to enter what was measured. */
  let { build }: { build: BuildState } = $props();
  type Contribution = Schemas["Contribution"];
  const asked = new Asked<Schemas["MeasureFirst"]>();
  let entered = $state<Record<string, { value?: number; half?: number }>>({});
  const place = $derived(build.selected ?? build.result?.tightest ?? null);

  $effect(() => {
    const document = build.document;
    if (!document || !build.workloadId) return;
    const body = { document, workload: build.workloadId, room_c: build.roomC, place };
    return asked.ask((as) => client.POST("/api/measure-first", { ...as, body }), 200);
  });
  const answer = $derived(asked.answer);
  const most = $derived(Math.max(answer?.model_k ?? 1, ...(answer?.contributions ?? []).map((c) => c.half_k)));
  const isLaw = (item: Contribution) => item.origin === "law";
  const nameOf = (item: Contribution) => {
    if (isLaw(item)) return `${item.name}: ${item.label.replace(/^law: /, "")}`;
    const { field, key } = addressOf(item.address);
    return key ? `${build.sourceNames[key] ?? key}: ${labelOf(field)}` : `${item.name}: ${labelOf(field)}`;
  };

  const says = $derived.by(() => {
    const first = answer?.contributions.find((item) => !isLaw(item));
    if (!answer) return "";
    const known = `${answer.name} is known to ± ${fixed(answer.half_width_k)} K.`;
    return first
      ? `${known} Measure first: ${nameOf(first)}; then ± ${fixed(first.without_k)} K are left.`
      : `${known} No single figure is worth a measurement.`;
  });

  /** The measured figure takes the place of the guess; parts of one class that shared the guess keep it. */
  function enter(item: Contribution) {
    const given = entered[item.address];
    const value = given?.value ?? item.value;
    const figure: Figure = {
      value,
      plus_minus: given?.half ?? Number(Math.abs(0.03 * value).toPrecision(2)),
      from: "measured",
    };
    build.selected ??= place; // another part may be the tightest now: this one stays in view
    build.edit(`${nameOf(item)}: measured`, (draft) => setAt(draft, item.address, figure));
    delete entered[item.address];
  }
</script>

<section class="panel mt-3" aria-label="Measure first">
  <p class="flex flex-wrap items-center gap-3">
    <label
      >What makes the band of
      <select class="field max-w-60" value={place} onchange={(e) => (build.selected = e.currentTarget.value)}>
        {#each build.result?.places ?? [] as item (item.address)}<option value={item.address}>{item.name}</option
          >{/each}
      </select>
      wide</label
    >
    <span class="soft"
      >{build.workload?.name || build.workloadId}, 90 % half widths, independent causes add as squares</span
    >
  </p>
  <Faults faults={asked.faults} alert />
  {#if answer}
    <p class="mt-2"><strong data-testid="measure-says">{says}</strong></p>
    <table class="plain mt-2" class:asking={asked.busy} aria-busy={asked.busy} data-testid="contributions">
      <thead
        ><tr
          ><th>figure</th><th>stands as</th><th colspan="2">adds</th><th class="text-right">left without it</th><th
            >measured?</th
          ></tr
        ></thead
      >
      <tbody>
        {#each answer.contributions as item (item.address)}
          <tr>
            <td
              ><strong>{nameOf(item)}</strong>{#if item.together.length}<span class="soft text-sm"
                  >{` and ${item.together.length} alike`}</span
                >{/if}</td
            >
            <td class="text-sm"
              ><span class="num">{Number(item.value.toPrecision(4))} ± {Number(item.plus.toPrecision(2))}</span>
              {item.unit} <span class="soft">{item.origin.replaceAll("_", " ")}</span></td
            >
            <td class="num text-right">± {fixed(item.half_k)} K</td>
            <td class="bar"><span style:width="{(100 * item.half_k) / most}%"></span></td>
            <td class="num text-right">± {fixed(item.without_k)} K</td>
            <td class="whitespace-nowrap">
              {#if isLaw(item)}<span class="soft text-sm">what its law may be off: not to be measured</span>{:else}
                <NumberField
                  label="Measured {nameOf(item)}"
                  hideLabel
                  value={entered[item.address]?.value}
                  unit={item.unit}
                  low={0}
                  high={1e7}
                  width={72}
                  disabled={!build.editable}
                  onchange={(v) => (entered[item.address] = { ...entered[item.address], value: v })}
                />
                <NumberField
                  label="±"
                  value={entered[item.address]?.half}
                  low={0}
                  high={1e6}
                  width={52}
                  disabled={!build.editable}
                  onchange={(v) => (entered[item.address] = { ...entered[item.address], half: v })}
                />
                <button
                  class="button small"
                  disabled={!build.editable || entered[item.address]?.value === undefined}
                  onclick={() => enter(item)}>Enter<span class="sr-only"> {nameOf(item)}</span></button
                >
              {/if}
            </td>
          </tr>
        {/each}
        <tr>
          <td><strong>The model itself</strong></td>
          <td class="soft text-sm">5 % of the rise</td>
          <td class="num text-right">± {fixed(answer.model_k)} K</td>
          <td class="bar"><span class="model" style:width="{(100 * answer.model_k) / most}%"></span></td>
          <td></td><td class="soft text-sm">a calibrated run narrows it</td>
        </tr>
      </tbody>
    </table>
    <p class="soft mt-2 text-sm">Without a ± a measured figure is taken as known to 3 %. {answer.certifies}</p>
  {:else if !asked.faults.length}
    <p class="soft mt-2" role="status">Moving every uncertain figure by its tolerance …</p>
  {/if}
</section>

<style>
  .bar {
    width: 150px;
  }
  .bar span {
    display: block;
    height: 9px;
    border-radius: 3px;
    background: var(--accent);
  }
  .bar .model {
    background: var(--soft);
  }
  .small {
    padding: 1px 9px;
    font-size: 13px;
  }
</style>
