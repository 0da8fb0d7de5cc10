<script lang="ts">
  import type { Part } from "$lib/document/build";
  import { memoryWatts, takeMemory, type Memory } from "$lib/document/memory";
  import type { BuildState } from "$lib/state/build.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { fixed } from "$lib/units/format";

  /** What memory draws by rate, voltage and number of modules, where nobody has measured it. */
  let { build, part }: { build: BuildState; part: Part } = $props();
  let setting = $state<Memory>({ modules: 2, rate: 5200, volts: 1.1, twoSided: false, checked: false });
  const watts = $derived(memoryWatts(setting));

  function take() {
    const [id, workload, value] = [part.id, build.workloadId, watts];
    build.edit(`watts of ${part.name || id} by its setting`, (draft) => takeMemory(draft, id, workload, value));
  }
</script>

<details class="mt-2">
  <summary class="cursor-pointer font-semibold">Watts by its setting</summary>
  <div class="mt-1 flex flex-wrap gap-x-4 gap-y-2">
    <NumberField
      label="Modules"
      value={setting.modules}
      low={1}
      high={16}
      width={52}
      onchange={(v) => (setting.modules = Math.round(v))}
    />
    <NumberField
      label="Rate"
      unit="MT/s"
      value={setting.rate}
      low={800}
      high={12000}
      width={72}
      onchange={(v) => (setting.rate = v)}
    />
    <NumberField
      label="Voltage"
      unit="V"
      value={setting.volts}
      low={0.9}
      high={1.8}
      width={58}
      onchange={(v) => (setting.volts = v)}
    />
    <label class="flex items-center gap-1.5"
      ><input type="checkbox" bind:checked={setting.twoSided} /> chips on both sides</label
    >
    <label class="flex items-center gap-1.5"><input type="checkbox" bind:checked={setting.checked} /> check bits</label>
  </div>
  <p class="mt-1 flex flex-wrap items-center gap-3">
    <span class="num">{fixed(watts)} W ± 25 %</span>
    <button class="button" disabled={!build.editable} onclick={take}>Take it for {build.workload?.name}</button>
  </p>
</details>
