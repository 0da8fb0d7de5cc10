<script lang="ts">
  import { placesOf, type Holding, type NearHeat } from "$lib/document/build";
  import {
    addHolding,
    addNearHeat,
    changeHolding,
    changeNearHeat,
    GLUED,
    removeHolding,
    removeNearHeat,
  } from "$lib/document/holding";
  import type { BuildState } from "$lib/state/build.svelte";
  import { outlines } from "$lib/state/outlines.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import StatusMark from "$lib/ui/StatusMark.svelte";
  import { besideSays, jointSays } from "./inPlace";
  import { STATUS } from "./words";

  /** What tapes, glues, clips and screws carry at the temperature they get, and what lies beside hot parts. */
  let { build }: { build: BuildState } = $props();
  void outlines.load();
  const answer = $derived(build.result);
  const holdings = $derived(build.document?.holdings ?? []);
  const beside = $derived(build.document?.near_heat ?? []);
  const solid = $derived((build.document?.parts ?? []).filter((part) => part.kind !== "interface"));
  const nameOf = (id: string) => build.document?.parts.find((part) => part.id === id)?.name || id;
  const kindOf = (id: string) => outlines.joints.find((one) => one.id === id);
  const warm = $derived([
    ...placesOf(build.document ?? ({ parts: [] } as never)).map((place) => ({
      id: place.id,
      name: place.name || place.id,
    })),
    ...(build.document?.zones ?? [])
      .filter((zone) => zone.kind === "box")
      .map((zone) => ({ id: zone.id, name: zone.name || zone.id })),
    ...(build.document?.parts ?? [])
      .filter((part) => part.kind === "sink" || part.kind === "panel")
      .map((part) => ({ id: part.id, name: part.name || part.id })),
  ]);
  const BESIDE: NearHeat["what"][] = ["wood", "card", "cloth", "foam", "felt"];
  let part = $state("");
  let what = $state<NearHeat["what"]>("wood");
  let near = $state("");
  const edit = (holding: Holding, change: Partial<Holding>) =>
    build.edit(`what holds ${nameOf(holding.parts[0]!)}`, (draft) => changeHolding(draft, holding.id, change));
</script>

<section class="panel" aria-label="What holds">
  <h2>What holds, what is beside heat</h2>
  {#each holdings as holding (holding.id)}
    {@const its = answer?.joints.find((one) => one.holding === holding.id)}
    {@const says = its && jointSays(its)}
    <div class="line">
      {#if says}<StatusMark status={STATUS[says.tone]} size={13} />{/if}
      <strong>{holding.name || holding.parts.map(nameOf).join(", ")}</strong>
      <select
        class="field"
        aria-label="Held by"
        disabled={!build.editable}
        value={holding.by}
        title={kindOf(holding.by)?.note}
        onchange={(e) => edit(holding, { by: e.currentTarget.value as Holding["by"] })}
      >
        {#each outlines.joints as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
      </select>
      {#if GLUED.includes(holding.by)}
        <NumberField
          label="Area"
          hideLabel
          value={holding.area_cm2 ?? undefined}
          unit="cm²"
          low={0.1}
          high={10000}
          width={52}
          disabled={!build.editable}
          onchange={(cm2) => edit(holding, { area_cm2: cm2 })}
        />
        <select
          class="field"
          aria-label="The weight"
          disabled={!build.editable}
          value={holding.pull ?? "pulls"}
          onchange={(e) => edit(holding, { pull: e.currentTarget.value as Holding["pull"] })}
        >
          <option value="pulls">pulls it off</option><option value="shears">slides along it</option>
        </select>
      {:else}
        <NumberField
          label="Pieces"
          hideLabel
          value={holding.count ?? 1}
          unit="pieces"
          low={1}
          high={200}
          width={44}
          disabled={!build.editable}
          onchange={(count) => edit(holding, { count: Math.round(count) })}
        />
      {/if}
      <label
        ><input
          type="checkbox"
          checked={holding.travels ?? false}
          disabled={!build.editable}
          onchange={(e) => edit(holding, { travels: e.currentTarget.checked })}
        /> travels so</label
      >
      {#if says}<span class={says.tone}>{says.text}</span>{/if}
      {#if build.editable}
        <button class="link" onclick={() => build.edit("joint gone", (draft) => removeHolding(draft, holding.id))}
          >remove</button
        >
      {/if}
    </div>
  {/each}
  {#each beside as one (one.id)}
    {@const its = answer?.beside.find((item) => item.near_heat === one.id)}
    {@const says = its && besideSays(its)}
    <div class="line">
      {#if says}<StatusMark status={STATUS[says.tone]} size={13} />{/if}
      <strong>{one.name || one.what}</strong> beside {warm.find((item) => item.id === one.near)?.name ?? one.near}
      <NumberField
        label="apart"
        value={one.apart_mm ?? 0}
        unit="mm"
        low={0}
        high={1000}
        width={46}
        disabled={!build.editable}
        onchange={(mm) => build.edit(`${one.what} apart`, (draft) => changeNearHeat(draft, one.id, { apart_mm: mm }))}
      />
      <label
        ><input
          type="checkbox"
          checked={one.behind_sheet ?? false}
          disabled={!build.editable}
          onchange={(e) => {
            const sheet = e.currentTarget.checked;
            build.edit(`${one.what} behind a sheet`, (draft) => changeNearHeat(draft, one.id, { behind_sheet: sheet }));
          }}
        /> behind a metal sheet</label
      >
      {#if says}<span class={says.tone}>{says.text}</span>{/if}
      {#if build.editable}
        <button class="link" onclick={() => build.edit(`${one.what} gone`, (draft) => removeNearHeat(draft, one.id))}
          >remove</button
        >
      {/if}
    </div>
  {/each}
  {#if build.editable}
    <div class="line">
      <label
        >Held by a joint:
        <select
          class="field part"
          value={part}
          onchange={(e) => {
            const id = e.currentTarget.value;
            e.currentTarget.value = "";
            if (id) build.edit(`what holds ${nameOf(id)}`, (draft) => void addHolding(draft, id, "foam_tape"));
          }}
        >
          <option value="">a part …</option>
          {#each solid as one (one.id)}<option value={one.id}>{one.name || one.id}</option>{/each}
        </select></label
      >
      <label
        >or <select class="field" bind:value={what}>
          {#each BESIDE as one (one)}<option>{one}</option>{/each}
        </select></label
      >
      <label
        >beside <select class="field part" aria-label="Beside what" bind:value={near}>
          <option value="">something warm …</option>
          {#each warm as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
        </select></label
      >
      <button
        class="button"
        disabled={!near}
        onclick={() => build.edit(`${what} beside heat`, (draft) => addNearHeat(draft, what, near))}>+ Add</button
      >
    </div>
  {/if}
  <p class="soft small">
    For years, at the temperature of the workload in view; ± 40 %, common practice. Whoever may be hurt by what falls
    deserves a screw.
  </p>
</section>

<style>
  .line {
    display: flex;
    flex-wrap: wrap;
    gap: 5px 9px;
    align-items: baseline;
    font-size: 14px;
    padding: 3px 0;
  }
  .part {
    max-width: 150px;
  }
  .bad {
    color: var(--too-hot);
  }
  .warn {
    color: var(--tight);
  }
  .small {
    font-size: 13px;
  }
</style>
