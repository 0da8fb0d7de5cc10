<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { placeOf, valueOf, withValue, type Place } from "$lib/document/build";
  import { addLimit, LIMIT_WORDS, type LimitKind } from "$lib/document/places";
  import NumberField from "$lib/ui/NumberField.svelte";

  /** What a place must not pass, and what its temperature is. */
  let { build, place }: { build: BuildState; place: Place } = $props();
  const SENSORS: [Place["temperature_kind"], string][] = [
    ["hottest_core", "the hottest core"],
    ["mean_core", "the mean of its cores"],
    ["chip_sensor", "the chip's sensor"],
    ["hot_spot", "the hot spot"],
    ["memory", "the memory's sensor"],
    ["case", "the case, from outside"],
  ];
  const limits = $derived(place.limits ?? []);
  const name = $derived(place.name || place.id);

  function change(what: string, make: (target: Place) => void) {
    const id = place.id;
    build.edit(`${name}: ${what}`, (draft) => {
      const target = placeOf(draft, id);
      if (target) make(target);
    });
  }
</script>

<label class="mb-2 grid gap-1">
  <span class="soft">Its temperature is</span>
  <select
    class="field"
    value={place.temperature_kind}
    disabled={!build.editable}
    onchange={(e) => {
      const kind = e.currentTarget.value as Place["temperature_kind"];
      change("sensor", (target) => (target.temperature_kind = kind));
    }}
  >
    {#each SENSORS as [kind, words] (kind)}<option value={kind}>{words}</option>{/each}
  </select>
</label>
<h3>Limits</h3>
{#each limits as limit, i (i)}
  <p class="flex items-baseline gap-2">
    <select
      class="field"
      aria-label="Kind of limit {i + 1}"
      value={limit.kind}
      disabled={!build.editable}
      onchange={(e) => {
        const kind = e.currentTarget.value as LimitKind;
        change("limit", (target) => (target.limits![i]!.kind = kind));
      }}
    >
      {#each Object.entries(LIMIT_WORDS) as [kind, words] (kind)}<option value={kind}>{words}</option>{/each}
    </select>
    <NumberField
      label="{LIMIT_WORDS[limit.kind]}, limit {i + 1}"
      hideLabel
      unit="°C"
      value={valueOf(limit.at_c)}
      low={-100}
      high={300}
      width={64}
      disabled={!build.editable}
      onchange={(value) => change("limit", (target) => (target.limits![i]!.at_c = withValue(limit.at_c, value)))}
    />
    <button
      class="button small"
      aria-label="Take limit {i + 1} out"
      disabled={!build.editable}
      onclick={() => change("limit taken out", (target) => target.limits!.splice(i, 1))}>×</button
    >
  </p>
{:else}
  <p class="soft">None: it is never judged.</p>
{/each}
<button class="button mt-1" disabled={!build.editable} onclick={() => change("new limit", addLimit)}>+ limit</button>

<style>
  h3 {
    margin: 8px 0 4px;
    font-weight: 650;
  }
  .small {
    padding: 0 8px;
  }
</style>
