<script lang="ts">
  import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { keepFile } from "$lib/ui/keep";
  import { fixed } from "$lib/units/format";

  /** What is cut and printed: templates of a face at 1:1, and duct adapters. */
  let { build }: { build: BuildState } = $props();
  type Template = Schemas["CutTemplateIn"];
  const PROCESSES: [NonNullable<Template["process"]>, string][] = [
    ["by_hand", "by hand: punch, drill, file"],
    ["hole_saw", "hole saw"],
    ["laser", "laser"],
    ["print", "printed part"],
  ];
  const faces = $derived([
    ...new Set(
      (build.document?.parts ?? []).flatMap((part) =>
        part.face && (part.kind === "fan" || part.kind === "radiator") ? [part.face] : [],
      ),
    ),
  ]);
  let wanted = $state<string | null>(null);
  const face = $derived(faces.find((one) => one === wanted) ?? faces[0]);
  let process = $state<NonNullable<Template["process"]>>("by_hand");
  let paper = $state<NonNullable<Template["paper"]>>("a4");
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
  });
  const asked = new Asked<Schemas["AdapterSays"]>();
  const says = $derived(asked.answer);

  $effect(() => {
    const body = { ...shape };
    return asked.ask((as) => client.POST("/api/adapter", { ...as, body }));
  });

  async function save(path: "/api/template" | "/api/adapter-file", body: object, name: string) {
    const { data, error } = await client.POST(path, { body: body as never, parseAs: "blob" });
    faults = data ? [] : faultsOf(error);
    if (data) keepFile(data as unknown as Blob, name);
  }
  const template = (form: NonNullable<Template["form"]>) =>
    save("/api/template", { document: build.document, face, process, paper, form }, `template-${face}.${form}`);
  const LENGTHS = [
    ["length_mm", "long", 5, 600],
    ["off_x_mm", "set off", -400, 400],
    ["off_y_mm", "and", -400, 400],
    ["wall_mm", "wall", 0.8, 10],
  ] as const;
</script>

<section class="panel" aria-label="Templates and adapters">
  <h2>To make</h2>
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
    <p class="soft">A template needs a fan or radiator that lies on a face: name its face in its sheet.</p>
  {/if}
  <div class="line">
    <span>Adapter from</span>
    {#each [["first", "first_mm"], ["second", "second_mm"]] as const as [key, size], i (key)}
      {#if i}<span>to</span>{/if}
      <select class="field" aria-label="{key} opening" bind:value={shape[key]}>
        <option>round</option><option>square</option>
      </select>
      <NumberField
        label="{key} size"
        hideLabel
        value={shape[size]}
        unit="mm"
        low={10}
        high={400}
        width={56}
        onchange={(mm) => (shape[size] = mm)}
      />
    {/each}
    {#each LENGTHS as [key, label, low, high] (key)}
      <NumberField {label} value={shape[key]} unit="mm" {low} {high} width={50} onchange={(mm) => (shape[key] = mm)} />
    {/each}
    {#each ["stl", "3mf"] as const as form (form)}
      <button class="button" onclick={() => void save("/api/adapter-file", { ...shape, form }, `adapter.${form}`)}
        >{form.toUpperCase()}</button
      >
    {/each}
  </div>
  {#if says}
    <p class="soft small">
      {fixed(says.plastic_cm3)} cm³, about {fixed(says.mass_g, 0)} g of plastic, {says.size_mm
        .map((mm) => fixed(mm, 0))
        .join(" × ")}
      mm; print it standing on {says.stands_on}{says.supports
        ? `, with supports: it leans ${fixed(says.steepest_deg, 0)}°`
        : ", without supports"}. Keep its plastic 10 K below its softening beside hot parts.
    </p>
  {/if}
  <Faults faults={[...asked.faults, ...faults]} />
</section>

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
