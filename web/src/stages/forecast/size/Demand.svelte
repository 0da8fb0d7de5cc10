<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { withWorkload, type Criterion, type Demands } from "$lib/document/vary";
  import NumberField from "$lib/ui/NumberField.svelte";

  /** What is demanded of every candidate, and what the ones that meet it are weighed by. */
  let {
    build,
    demands = $bindable(),
    criteria = $bindable(),
  }: { build: BuildState; demands: Demands; criteria: Criterion[] } = $props();
  const CRITERIA: [Criterion, string][] = [
    ["margin", "more margin"],
    ["sound", "less sound"],
    ["height", "less height"],
    ["mass", "less mass"],
    ["price", "less money"],
  ];
  const workloads = $derived(build.document?.workloads ?? []);
  const nameOf = (id: string) => workloads.find((w) => w.id === id)?.name || id;
  const places = $derived(build.result?.places ?? []);
  const others = $derived(workloads.filter((w) => !demands.margins.some((d) => d.workload === w.id && !d.place)));

  function margin(at: number, change: Partial<Demands["margins"][number]>) {
    demands = { ...demands, margins: demands.margins.map((d, i) => (i === at ? { ...d, ...change } : d)) };
  }
  function sound(at: number, level: number) {
    demands = { ...demands, sounds: demands.sounds.map((d, i) => (i === at ? { ...d, at_most_dba: level } : d)) };
  }
  function addWorkload(id: string) {
    const workload = workloads.find((w) => w.id === id);
    if (workload) demands = withWorkload(demands, workload);
  }
  const slots = $derived(build.document?.slots ?? []);
  const fit = (slot: string) => {
    const now = demands.fits ?? [];
    demands = { ...demands, fits: now.includes(slot) ? now.filter((one) => one !== slot) : [...now, slot] };
  };
  const less = (list: "margins" | "sounds", at: number) =>
    (demands = { ...demands, [list]: (demands[list] as unknown[]).filter((_, i) => i !== at) });
  const toggle = (criterion: Criterion) =>
    (criteria = criteria.includes(criterion) ? criteria.filter((c) => c !== criterion) : [...criteria, criterion]);
</script>

<section class="panel" aria-label="Requirements">
  <h2>Requirements</h2>
  {#each demands.margins as demand, i (i)}
    <p class="line">
      <span>In <strong>{nameOf(demand.workload)}</strong></span>
      <select
        class="field max-w-40"
        aria-label="Which part"
        value={demand.place ?? ""}
        onchange={(e) => margin(i, { place: e.currentTarget.value || null })}
      >
        <option value="">every part</option>
        {#each places as place (place.address)}<option value={place.address}>{place.name}</option>{/each}
      </select>
      <NumberField
        label="keeps"
        unit="K"
        value={demand.at_least_k}
        low={-50}
        high={100}
        width={58}
        onchange={(v) => margin(i, { at_least_k: v })}
      />
      <button class="quiet" aria-label="Drop this margin" onclick={() => less("margins", i)}>×</button>
    </p>
  {/each}
  {#each demands.sounds as demand, i (i)}
    <p class="line">
      <NumberField
        label="{nameOf(demand.workload)} is no louder than"
        unit="dBA"
        value={demand.at_most_dba}
        low={0}
        high={100}
        width={58}
        onchange={(v) => sound(i, v)}
      />
      <button class="quiet" aria-label="Drop this level" onclick={() => less("sounds", i)}>×</button>
    </p>
  {/each}
  <p class="line">
    <NumberField
      label="Stack at most"
      unit="mm"
      value={demands.height_mm ?? undefined}
      low={1}
      high={1000}
      width={64}
      onchange={(v) => (demands = { ...demands, height_mm: v })}
    />
    {#if demands.height_mm}<button
        class="quiet"
        aria-label="Drop the height"
        onclick={() => (demands = { ...demands, height_mm: null })}>×</button
      >{/if}
  </p>
  {#if slots.length}
    <p class="line" role="group" aria-label="Goes into">
      Goes into
      {#each slots as slot (slot.id)}
        <label class="whitespace-nowrap"
          ><input type="checkbox" checked={demands.fits?.includes(slot.id) ?? false} onchange={() => fit(slot.id)} />
          {slot.name || slot.id}</label
        >
      {/each}
    </p>
  {/if}
  <p class="line">
    <NumberField
      label="Mass at most"
      unit="g"
      value={demands.mass_g ?? undefined}
      low={1}
      high={1e6}
      width={72}
      onchange={(v) => (demands = { ...demands, mass_g: v })}
    />
    <NumberField
      label="Price at most"
      value={demands.price ?? undefined}
      low={0}
      high={1e6}
      width={72}
      onchange={(v) => (demands = { ...demands, price: v })}
    />
    {#if demands.mass_g || demands.price}<button
        class="quiet"
        aria-label="Drop mass and price"
        onclick={() => (demands = { ...demands, mass_g: null, price: null })}>×</button
      >{/if}
  </p>
  {#if others.length}
    <label class="line"
      >Also in
      <select
        class="field"
        value=""
        onchange={(e) => (addWorkload(e.currentTarget.value), (e.currentTarget.value = ""))}
      >
        <option value="">another workload …</option>
        {#each others as workload (workload.id)}<option value={workload.id}>{workload.name || workload.id}</option
          >{/each}
      </select></label
    >
  {/if}
  <p class="soft text-sm">Margins here are central values; the band of the one you take stands in the strip.</p>
  <p class="line soft">
    Compare by
    {#each CRITERIA as [criterion, name] (criterion)}
      <label class="flex items-center gap-1 text-sm"
        ><input type="checkbox" checked={criteria.includes(criterion)} onchange={() => toggle(criterion)} />
        {name}</label
      >
    {/each}
  </p>
</section>

<style>
  .line {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 9px;
    margin-top: 6px;
  }
  .quiet {
    color: var(--soft);
    cursor: pointer;
    padding: 0 5px;
  }
</style>
