<script lang="ts">
  import { setAt } from "$lib/document/addresses";
  import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import Faults from "$lib/ui/Faults.svelte";

  /** A fan's or pump's curve pasted or dropped as two columns, in any of the usual units. */
  let { build, part, kind }: { build: BuildState; part: string; kind: "fan" | "pump" } = $props();
  const FLOWS = ["m3/h", "CFM", "l/s", "l/min", "l/h", "gal/min"];
  const PRESSURES = ["Pa", "mmH2O", "inH2O", "m", "kPa", "psi", "mbar"];
  let text = $state("");
  let flow = $state("");
  let pressure = $state("");
  let faults = $state.raw<Fault[]>([]);
  let read = $state.raw<Schemas["CurveOut"] | null>(null);
  let over = $state(false);

  async function take() {
    const { data, error } = await client.POST("/api/curve", {
      body: { text, kind, flow_unit: flow || null, pressure_unit: pressure || null },
    });
    read = data ?? null;
    faults = data ? [] : faultsOf(error);
    if (!data) return;
    build.edit(`curve of ${build.sourceNames[part] ?? part}`, (draft) => {
      setAt(draft, `${part}/curve`, data.points);
    });
  }

  async function drop(event: DragEvent) {
    over = false;
    const file = event.dataTransfer?.files[0];
    if (!file) return;
    event.preventDefault();
    text = await file.text();
    await take();
  }
</script>

<details class="mt-2">
  <summary class="cursor-pointer font-semibold">Paste or drop its curve</summary>
  <textarea
    class="field mt-1 w-full"
    class:over
    rows="5"
    aria-label="Two columns: flow and pressure"
    placeholder={kind === "fan" ? "CFM; mmH2O\n0; 2.5\n30; 1.4\n58; 0" : "l/h, m\n0, 3.9\n500, 3.2\n1000, 0"}
    bind:value={text}
    ondragover={(event) => ((over = true), event.preventDefault())}
    ondragleave={() => (over = false)}
    ondrop={drop}></textarea>
  <div class="mt-1 flex flex-wrap items-center gap-2">
    <select class="field" bind:value={flow} aria-label="Unit of flow">
      <option value="">flow as headed</option>
      {#each FLOWS as unit (unit)}<option>{unit}</option>{/each}
    </select>
    <select class="field" bind:value={pressure} aria-label="Unit of pressure">
      <option value="">pressure as headed</option>
      {#each PRESSURES as unit (unit)}<option>{unit}</option>{/each}
    </select>
    <button class="button" onclick={take} disabled={!text.trim() || !build.editable}>Take the curve</button>
  </div>
  <Faults {faults} alert />
  {#if read}
    <p class="soft text-sm" role="status">
      {read.points.length} points read as {read.flow_unit} and {read.pressure_unit}{read.skipped.length
        ? `; ${read.skipped.length} line without figures left out`
        : ""}.
    </p>
  {/if}
</details>

<style>
  .over {
    border-color: var(--accent);
  }
</style>
