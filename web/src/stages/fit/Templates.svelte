<script lang="ts">
  import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { FACES } from "$lib/document/housing";
  import { keepFile } from "$lib/ui/keep";

  /** Templates of a face at 1:1, with the flat of its flanges where it is bent. */
  let { build }: { build: BuildState } = $props();
  type Template = Schemas["CutTemplateIn"];
  const PROCESSES: [NonNullable<Template["process"]>, string][] = [
    ["by_hand", "by hand: punch, drill, file"],
    ["hole_saw", "hole saw"],
    ["jigsaw", "jigsaw, filed to the line"],
    ["laser", "laser"],
    ["print", "printed part"],
  ];
  const FLANGES: [NonNullable<Template["flanges"]> | "", string][] = [
    ["", "flat"],
    ["all", "bent all round"],
    ["sides", "bent at its sides"],
    ["ends", "bent at its ends"],
  ];
  const parts = $derived(build.document?.parts ?? []);
  /** Faces with fans or radiators first; boards may stand on any. */
  const faces = $derived([
    ...new Set([
      ...parts.flatMap((part) => (part.face && ["fan", "radiator"].includes(part.kind) ? [part.face] : [])),
      ...(parts.some((part) => part.outline?.position_mm) ? FACES : []),
    ]),
  ]);
  let wanted = $state<string | null>(null);
  const face = $derived(faces.find((one) => one === wanted) ?? faces[0]);
  let process = $state<NonNullable<Template["process"]>>("by_hand");
  let paper = $state<NonNullable<Template["paper"]>>("a4");
  let flanges = $state<NonNullable<Template["flanges"]> | "">("");
  let bend = $state({ flange_mm: 15, sheet_mm: 1.5 });
  let faults = $state.raw<Fault[]>([]);

  async function template(form: NonNullable<Template["form"]>) {
    const bent = flanges ? { flanges, ...bend } : {};
    const body = { document: build.document!, face: face!, process, paper, form, ...bent };
    const { data, error } = await client.POST("/api/template", { body: body as never, parseAs: "blob" });
    faults = data ? [] : faultsOf(error);
    if (data) keepFile(data as unknown as Blob, `template-${face}.${form}`);
  }
</script>

{#if face}
  <div class="line">
    <label
      >Template of the
      <select class="field" value={face} onchange={(e) => (wanted = e.currentTarget.value)}>
        {#each faces as one (one)}<option>{one}</option>{/each}
      </select></label
    >
    <label
      >cut by <select class="field" bind:value={process}>
        {#each PROCESSES as [id, text] (id)}<option value={id}>{text}</option>{/each}
      </select></label
    >
    <label
      >panel <select class="field" bind:value={flanges}>
        {#each FLANGES as [id, text] (id)}<option value={id}>{text}</option>{/each}
      </select></label
    >
    {#if flanges}
      <NumberField
        label="flanges"
        value={bend.flange_mm}
        unit="mm"
        low={4}
        high={100}
        width={48}
        onchange={(mm) => (bend.flange_mm = mm)}
      />
      <NumberField
        label="sheet"
        value={bend.sheet_mm}
        unit="mm"
        low={0.5}
        high={4}
        width={44}
        onchange={(mm) => (bend.sheet_mm = mm)}
      />
    {/if}
    <label
      >on <select class="field" bind:value={paper}>
        <option value="a4">A4</option><option value="a3">A3</option><option value="letter">Letter</option>
      </select></label
    >
    {#each ["pdf", "svg", "dxf"] as const as form (form)}
      <button class="button" onclick={() => void template(form)}>{form.toUpperCase()} 1:1</button>
    {/each}
  </div>
  <p class="soft small">Print without scaling, and measure the bar of 100 mm before you cut.</p>
{:else}
  <p class="soft">
    A template needs a fan or radiator that lies on a face (name it in its sheet), or a board with a place.
  </p>
{/if}
<Faults {faults} />

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
</style>
