<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { valueOf, type Part } from "$lib/document/build";
  import { stateWatts } from "$lib/document/workloads";
  import { addPlace, removePlace } from "$lib/document/places";
  import NumberField from "$lib/ui/NumberField.svelte";
  import OriginDot from "$lib/ui/OriginDot.svelte";
  import { fixed } from "$lib/units/format";

  /** The places of a source that get hot, each with its share of the watts. */
  let { build, part }: { build: BuildState; part: Extract<Part, { kind: "source" | "supply" }> } = $props();
  const shares = $derived(part.places.map((place) => valueOf(place.power_share) ?? 1));
  const whole = $derived(shares.reduce((sum, share) => sum + share, 0));

  function setWatts(value: number) {
    const id = part.id;
    build.edit(`${part.name || id} in ${build.workloadId}: ${value} W`, (draft) =>
      stateWatts(draft, build.workloadId, id, value),
    );
  }

  function add() {
    const id = part.id;
    build.edit(`add a place to ${part.name || id}`, (draft) => (build.sheet = addPlace(draft, id) ?? build.sheet));
  }
</script>

{#if part.kind === "source"}
  <p class="mt-2">
    <NumberField
      label="Watts in {build.workload?.name || build.workloadId}"
      unit="W"
      value={valueOf(build.workload?.watts[part.id])}
      low={0}
      high={2000}
      width={74}
      disabled={!build.editable}
      onchange={setWatts}
    />
    <OriginDot figure={build.workload?.watts[part.id]} />
  </p>
{/if}
<h3>Places that get hot</h3>
<ul>
  {#each part.places as place, i (place.id)}
    <li class="flex items-baseline gap-2">
      <button class="link grow" onclick={() => (build.sheet = place.id)}>{place.name || place.id}</button>
      <span class="num">{fixed(100 * (shares[i] ?? 1), 0)} %</span>
      <button
        class="button small"
        aria-label="Take {place.name || place.id} out"
        disabled={!build.editable || part.places.length < 2}
        onclick={() => build.edit(`take ${place.name || place.id} out`, (draft) => removePlace(draft, place.id))}
        >×</button
      >
    </li>
  {/each}
</ul>
{#if part.kind === "source"}
  <p class="soft text-sm">
    {#if whole < 0.995}{fixed(100 * (1 - whole), 0)} % go straight to the box's air.
    {:else if whole > 1.005}The shares add up to {fixed(100 * whole, 0)} %.{/if}
  </p>
  <button class="button" onclick={add} disabled={!build.editable}>+ place</button>
{/if}

<style>
  h3 {
    margin: 12px 0 4px;
    font-weight: 650;
  }
  .link {
    text-align: left;
    font-weight: 600;
    cursor: pointer;
    text-decoration: underline;
    text-decoration-color: var(--accent);
  }
  .small {
    padding: 0 8px;
  }
</style>
