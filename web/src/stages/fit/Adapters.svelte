<script lang="ts">
  import { onMount } from "svelte";
  import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { keepFile } from "$lib/ui/keep";
  import { adapterSays, softens, startOf } from "./adapterWords";

  /** A duct adapter between two openings or fans, to be printed: what it takes, and whether its plastic stands the warmth. */
  let { build }: { build: BuildState } = $props();
  let faults = $state.raw<Fault[]>([]);
  let shape = $state<Required<Omit<Schemas["AdapterFileIn"], "form">>>({
    first: "round",
    first_mm: 92,
    second: "square",
    second_mm: 120,
    length_mm: 40,
    off_x_mm: 0,
    off_y_mm: 0,
    wall_mm: 2,
    first_fan_mm: 0,
    second_fan_mm: 0,
    first_high_mm: 0,
    second_high_mm: 0,
    plastic: "petg",
  });
  let beside = $state("");
  const asked = new Asked<Schemas["AdapterSays"]>();
  const says = $derived(asked.answer);
  const warm = $derived([
    ...(build.result?.zones ?? []).map((zone) => ({ id: zone.address, name: zone.name, at: zone.temperature_c })),
    ...(build.result?.bodies ?? []).map((body) => ({ id: body.address, name: body.name, at: body.hottest_c })),
    ...(build.result?.places ?? []).map((place) => ({ id: place.address, name: place.name, at: place.temperature_c })),
  ]);
  const near = $derived(warm.find((one) => one.id === beside));
  const PLASTICS: Schemas["AdapterFileIn"]["plastic"][] = ["pla", "petg", "abs", "asa", "pc", "pmma"];
  const FANS = [0, 40, 50, 60, 80, 92, 120, 140, 180, 200];
  const ENDS = [
    ["first", "first_mm", "first_high_mm", "first_fan_mm", "Adapter from"],
    ["second", "second_mm", "second_high_mm", "second_fan_mm", "to"],
  ] as const;
  const LENGTHS = [
    ["length_mm", "long", 5, 600],
    ["off_x_mm", "set off", -400, 400],
    ["off_y_mm", "and", -400, 400],
    ["wall_mm", "wall", 0.8, 10],
  ] as const;

  onMount(() => void Object.assign(shape, startOf(build.document)));

  $effect(() => {
    const body = { ...shape };
    return asked.ask((as) => client.POST("/api/adapter", { ...as, body }));
  });

  async function save(form: "stl" | "3mf") {
    const { data, error } = await client.POST("/api/adapter-file", {
      body: { ...shape, form } as never,
      parseAs: "blob",
    });
    faults = data ? [] : faultsOf(error);
    if (data) keepFile(data as unknown as Blob, `adapter.${form}`);
  }
</script>

<div class="line">
  {#each ENDS as [key, size, high, fan, label] (key)}
    <span>{label}</span>
    <select class="field" aria-label="{key} opening" bind:value={shape[key]}>
      <option>round</option><option>square</option>
    </select>
    <NumberField
      label="{key} size"
      hideLabel
      value={shape[size]}
      low={10}
      high={400}
      width={52}
      onchange={(mm) => (shape[size] = mm)}
    />
    <NumberField
      label="×"
      value={shape[high] || undefined}
      unit="mm"
      low={10}
      high={400}
      width={52}
      placeholder="alike"
      onchange={(mm) => (shape[high] = mm)}
      onclear={() => (shape[high] = 0)}
    />
    <select class="field" aria-label="{key} end is screwed to" bind:value={shape[fan]}>
      {#each FANS as mm (mm)}<option value={mm}>{mm ? `flange for a fan of ${mm}` : "no flange"}</option>{/each}
    </select>
  {/each}
</div>
<div class="line">
  {#each LENGTHS as [key, label, low, high] (key)}
    <NumberField {label} value={shape[key]} unit="mm" {low} {high} width={50} onchange={(mm) => (shape[key] = mm)} />
  {/each}
  <label
    >in <select class="field" bind:value={shape.plastic}>
      {#each PLASTICS as one (one)}<option value={one}>{one!.toUpperCase()}</option>{/each}
    </select></label
  >
  <label
    >beside <select class="field beside" bind:value={beside}>
      <option value="">nothing hot</option>
      {#each warm as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
    </select></label
  >
  {#each ["stl", "3mf"] as const as form (form)}
    <button class="button" onclick={() => void save(form)}>{form.toUpperCase()}</button>
  {/each}
</div>
{#if says}
  {@const heat = softens(says, near && { name: near.name, at: near.at })}
  <p class="soft small">{adapterSays(says)}</p>
  <p class="small {heat.tone}">{heat.text}</p>
{/if}
<Faults faults={[...asked.faults, ...faults]} />

<style>
  .line {
    display: flex;
    flex-wrap: wrap;
    gap: 6px 10px;
    align-items: baseline;
    font-size: 14px;
    margin-top: 6px;
  }
  .small {
    font-size: 13px;
  }
  .beside {
    max-width: 150px;
  }
  .plain {
    color: var(--soft);
  }
  .bad {
    color: var(--too-hot);
  }
</style>
