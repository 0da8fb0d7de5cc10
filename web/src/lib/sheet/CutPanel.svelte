<script lang="ts">
  import type { Part } from "$lib/document/build";
  import { cutOpening, FIRST_CUT, openingOf, WAYS_TO_CUT, type Cut, type How } from "$lib/document/cutting";
  import type { BuildState } from "$lib/state/build.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { fixed } from "$lib/units/format";

  /** The area of an opening from what a ruler says: a circle, slots, a field of holes, open sides. */
  let { build, part }: { build: BuildState; part: Part } = $props();
  let how = $state<How>("circle");
  let cut = $state<Cut>({ ...FIRST_CUT });
  const opening = $derived(openingOf(how, cut));

  function take() {
    const [id, way, measured] = [part.id, how, { ...cut }];
    build.edit(`${part.name || id}: cut as ${WAYS_TO_CUT[way].name}`, (draft) => cutOpening(draft, id, way, measured));
  }
</script>

<details class="mt-2">
  <summary class="cursor-pointer font-semibold">Area by how it is cut</summary>
  <label class="mt-1 flex items-baseline gap-2">
    <span class="soft">Cut as</span>
    <select class="field" bind:value={how}>
      {#each Object.entries(WAYS_TO_CUT) as [id, way] (id)}<option value={id}>{way.name}</option>{/each}
    </select>
  </label>
  <div class="mt-2 flex flex-wrap gap-x-4 gap-y-2">
    {#each WAYS_TO_CUT[how].measures as { key, label, unit, low, high } (key)}
      <NumberField
        {label}
        {unit}
        {low}
        {high}
        width={64}
        value={cut[key]}
        onchange={(v) => (cut[key] = key === "count" ? Math.round(v) : v)}
      />
    {/each}
  </div>
  <p class="mt-2 flex flex-wrap items-center gap-3">
    {#if opening.fault}
      <span class="fault" role="alert">{opening.fault}</span>
    {:else}
      <span class="num">{fixed(opening.area_cm2)} cm²</span>
      {#if how === "holes"}<span class="num soft">{fixed(100 * opening.share, 0)} % free</span>{/if}
    {/if}
    <button class="button" disabled={!build.editable || !!opening.fault} onclick={take}>Take it</button>
  </p>
</details>
