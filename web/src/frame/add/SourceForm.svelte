<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { classes } from "$lib/state/classes.svelte";
  import { addSource } from "$lib/document/sources";
  import NumberField from "$lib/ui/NumberField.svelte";

  /** Something that makes heat, and where its heat goes. */
  let { build, added }: { build: BuildState; added: (text: string) => void } = $props();
  void classes.load();
  const WAYS: Record<string, string> = { plate: "plate", cooler: "stream", sink: "body", panel: "body" };
  let name = $state("");
  let watts = $state(65);
  let limit = $state(90);
  let placeClass = $state("lidded_65");
  let interfaceClass = $state("paste_ordinary_lid");
  let end = $state("");
  let pipeClass = $state("");
  let pipeCount = $state(3);
  let box: HTMLInputElement | undefined = $state();

  const ends = $derived([
    ...(build.document?.parts ?? [])
      .filter((part) => part.kind in WAYS)
      .map((part) => ({
        value: `${WAYS[part.kind]}:${part.id}`,
        label: part.name || part.id,
      })),
    ...(build.document ? build.document.zones : [])
      .filter((zone) => zone.kind === "box")
      .map((zone) => ({ value: `air:${zone.id}`, label: `air of ${zone.name || zone.id}` })),
  ]);
  const chosen = $derived(ends.some((e) => e.value === end) ? end : (ends[0]?.value ?? ""));

  function add(event: SubmitEvent) {
    event.preventDefault();
    const [kind, id] = chosen.split(":") as ["plate" | "stream" | "body" | "air", string];
    const label = name || "Source";
    build.edit(`add ${label}`, (draft) =>
      addSource(draft, {
        name: label,
        watts,
        placeClass,
        limitC: limit,
        interfaceClass,
        end: kind === "air" ? { kind, zone: id } : { kind, part: id },
        ...(kind === "body" && pipeClass ? { pipes: { class: pipeClass, count: pipeCount } } : {}),
      }),
    );
    added(`Added ${label}, ${watts} W.`);
    name = "";
    box?.focus();
  }

  function setClass(id: string) {
    placeClass = id;
    limit = classes.byId(id)?.limit_c ?? limit;
  }

  const focus = (node: HTMLInputElement) => node.focus();
</script>

<form onsubmit={add} class="grid gap-2">
  <label
    >Name <input class="field w-52" bind:value={name} bind:this={box} maxlength="80" required {@attach focus} /></label
  >
  <NumberField label="Heat" unit="W" value={watts} low={0} high={2000} onchange={(v) => (watts = v)} />
  <label
    >It is a
    <select class="field max-w-60" value={placeClass} onchange={(e) => setClass(e.currentTarget.value)}>
      {#each classes.of("place") as item (item.id)}<option value={item.id}>{item.name}</option>{/each}
    </select></label
  >
  <NumberField label="Limit" unit="°C" value={limit} low={30} high={150} onchange={(v) => (limit = v)} />
  <label
    >Gives its heat to
    <select class="field max-w-60" value={chosen} onchange={(e) => (end = e.currentTarget.value)}>
      {#each ends as item (item.value)}<option value={item.value}>{item.label}</option>{/each}
    </select></label
  >
  {#if chosen && !chosen.startsWith("air:")}
    <label
      >through
      <select class="field max-w-60" bind:value={interfaceClass}>
        {#each classes.of("interface") as item (item.id)}<option value={item.id}>{item.name}</option>{/each}
      </select></label
    >
  {/if}
  {#if chosen.startsWith("body:")}
    <label
      >carried by
      <select class="field max-w-60" bind:value={pipeClass}>
        <option value="">nothing: it is pressed on</option>
        {#each classes.of("heat_pipe") as item (item.id)}<option value={item.id}>{item.name}</option>{/each}
      </select></label
    >
    {#if pipeClass}
      <NumberField
        label="How many pipes"
        value={pipeCount}
        low={1}
        high={30}
        width={52}
        onchange={(v) => (pipeCount = Math.round(v))}
      />
    {/if}
  {/if}
  <div><button class="button main" disabled={!chosen || !build.editable}>Add</button></div>
  <p class="soft text-sm">The watts go into every workload; change them under Heat.</p>
</form>
