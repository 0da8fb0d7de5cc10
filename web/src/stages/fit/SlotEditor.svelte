<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Slot } from "$lib/document/build";
  import { valueOf } from "$lib/document/build";
  import {
    breathesIn,
    changeSlot,
    handToAir,
    measuredMm,
    moveInStack,
    partOf,
    putInStack,
    removeSlot,
    takeFromStack,
    thickInStack,
  } from "$lib/document/fit";
  import { outlines } from "$lib/state/outlines.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { fixed } from "$lib/units/format";
  import type { StackFit } from "./words";

  /** The figures of a slot and its stack: what it begins and ends at, what stands in it, how thick each is. */
  let {
    build,
    slot,
    fit,
    onremoved,
  }: { build: BuildState; slot: Slot; fit: StackFit | undefined; onremoved: () => void } = $props();
  void outlines.load();
  const BOUNDS: Record<NonNullable<Slot["begins"]>, string> = {
    closed: "a closed panel",
    perforated: "a perforated panel",
    mesh: "a mesh or guard",
    open: "nothing",
    part: "another part",
  };
  const stack = $derived(slot.stack ?? []);
  const gap = $derived(build.document?.parts.find((part) => part.kind === "gap" && part.slot === slot.id));
  const breathing = $derived(build.document ? breathesIn(build.document, slot) : null);
  const here = $derived(new Set(stack.map(partOf)));
  const THICK = [
    "fan",
    "radiator",
    "filter",
    "opening",
    "cooler",
    "sink",
    "panel",
    "plate",
    "supply",
    "source",
    "spreader",
  ];
  const parts = $derived(
    (build.document?.parts ?? []).filter((part) => THICK.includes(part.kind) && !here.has(part.id)),
  );
  const name = (at: number) => {
    const item = stack[at]!;
    const part = build.document?.parts.find((one) => one.id === partOf(item));
    return (typeof item === "object" && item.name) || part?.name || part?.id || "layer";
  };
  const typed = (at: number) => {
    const item = stack[at]!;
    return typeof item === "object" ? valueOf(item.thickness_mm) : undefined;
  };
  const edit = (what: string, change: Parameters<BuildState["edit"]>[1]) =>
    build.edit(`${slot.name || slot.id}: ${what}`, change);

  function add(event: Event) {
    const field = event.target as HTMLSelectElement;
    const [sort, id] = field.value.split(":") as ["part" | "layer", string];
    field.value = "";
    if (sort === "part") edit("part added", (draft) => putInStack(draft, slot.id, id));
    const layer = outlines.layers.find((one) => one.id === id);
    if (sort === "layer" && layer) {
      const [value, plusMinus] = layer.thickness_mm as [number, number];
      const thickness = { value, plus_minus: plusMinus, from: "class" as const };
      edit(`${layer.name} added`, (draft) => putInStack(draft, slot.id, { name: layer.name, thickness_mm: thickness }));
    }
  }

  function move(event: KeyboardEvent, at: number) {
    if (!event.altKey || (event.key !== "ArrowUp" && event.key !== "ArrowDown")) return;
    event.preventDefault();
    edit("order", (draft) => moveInStack(draft, slot.id, at, event.key === "ArrowUp" ? -1 : 1));
  }
</script>

<div class="line">
  <label
    >Name <input
      class="field"
      style:width="150px"
      value={slot.name}
      disabled={!build.editable}
      onchange={(e) => edit("name", (draft) => changeSlot(draft, slot.id, { name: e.currentTarget.value }))}
    /></label
  >
  <NumberField
    label="Slot"
    value={valueOf(slot.gap_mm)}
    unit="mm"
    low={0.1}
    high={5000}
    width={70}
    disabled={!build.editable}
    onchange={(mm) => edit("gap", (draft) => changeSlot(draft, slot.id, { gap_mm: measuredMm(mm) }))}
  />
  {#each [["begins", "from"], ["ends", "to"]] as const as [key, word] (key)}
    <label
      >{word}
      <select
        class="field"
        value={slot[key] ?? (key === "begins" ? "closed" : "part")}
        disabled={!build.editable}
        onchange={(e) =>
          edit(word, (draft) => changeSlot(draft, slot.id, { [key]: e.currentTarget.value as Slot["begins"] }))}
      >
        {#each Object.entries(BOUNDS) as [id, text] (id)}<option value={id}>{text}</option>{/each}
      </select></label
    >
  {/each}
  <label
    >which is <input
      class="field"
      style:width="110px"
      placeholder="memory"
      value={slot.ends_at}
      disabled={!build.editable}
      onchange={(e) =>
        edit("what it ends at", (draft) => changeSlot(draft, slot.id, { ends_at: e.currentTarget.value }))}
    /></label
  >
  <NumberField
    label="Screws"
    value={slot.screw_mm ?? undefined}
    unit="mm"
    low={1}
    high={200}
    width={56}
    placeholder="–"
    disabled={!build.editable}
    onchange={(mm) => edit("screws", (draft) => changeSlot(draft, slot.id, { screw_mm: mm }))}
    onclear={() => edit("no screws", (draft) => changeSlot(draft, slot.id, { screw_mm: null }))}
  />
</div>
<ol>
  {#each stack.keys() as at (at)}
    {@const standing = fit?.standing[at]}
    <li>
      <button
        class="grip"
        title="Alt ↑ ↓ moves it"
        aria-label="{name(at)}, place {at + 1} of {stack.length}; Alt and arrows move it"
        onkeydown={(event) => move(event, at)}
        onclick={() => partOf(stack[at]!) && (build.sheet = partOf(stack[at]!))}>{name(at)}</button
      >
      <NumberField
        label="Thickness of {name(at)}"
        hideLabel
        value={typed(at)}
        unit="mm"
        low={0}
        high={2000}
        width={58}
        placeholder={standing ? fixed(standing.thickness_mm) : "?"}
        disabled={!build.editable}
        onchange={(mm) => edit(`${name(at)} measured`, (draft) => thickInStack(draft, slot.id, at, mm))}
        onclear={() =>
          partOf(stack[at]!) && edit(`${name(at)} by class`, (draft) => thickInStack(draft, slot.id, at, undefined))}
      />
      <span class="soft origin"
        >{standing ? `± ${fixed(standing.thickness_half_mm)}, ${standing.origin}` : "no thickness"}</span
      >
      <button
        class="x"
        disabled={!build.editable}
        aria-label="Take {name(at)} out"
        onclick={() => edit(`${name(at)} out`, (draft) => takeFromStack(draft, slot.id, at))}>×</button
      >
    </li>
  {/each}
  <li>
    <select class="field add" aria-label="Add to the stack" disabled={!build.editable} onchange={add}>
      <option value="">+ add to the stack …</option>
      <optgroup label="Parts of the build">
        {#each parts as part (part.id)}<option value="part:{part.id}">{part.name || part.id}</option>{/each}
      </optgroup>
      <optgroup label="Between them">
        {#each outlines.layers as layer (layer.id)}<option value="layer:{layer.id}">{layer.name}</option>{/each}
      </optgroup>
    </select>
  </li>
</ol>
<div class="line">
  {#if gap}
    <span class="soft"
      >Its rest is the gap <button class="link" onclick={() => (build.sheet = gap.id)}>{gap.name || gap.id}</button> in Air.</span
    >
  {:else if breathing && fit?.span_mm}
    <button
      class="button"
      disabled={!build.editable}
      onclick={() => edit("its rest breathes", (draft) => handToAir(draft, slot.id, fit!.span_mm!))}
      >Let {breathing.part.name || breathing.part.id} breathe what is left</button
    >
    <span class="soft">then its cost in kelvins is part of every prediction</span>
  {/if}
  <span class="grow"></span>
  <button
    class="link"
    disabled={!build.editable}
    onclick={() => {
      edit("removed", (draft) => removeSlot(draft, slot.id, fit?.left_mm ?? 10));
      onremoved();
    }}>Remove slot</button
  >
</div>

<style>
  .line {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 6px 14px;
    font-size: 14px;
  }
  .grow {
    flex: 1;
  }
  ol {
    display: flex;
    flex-wrap: wrap;
    gap: 6px 10px;
    margin: 8px 0;
  }
  li {
    display: flex;
    align-items: baseline;
    gap: 5px;
    border: 1px solid var(--line);
    border-radius: 8px;
    padding: 3px 6px;
    font-size: 13.5px;
  }
  li:last-child {
    border: none;
    padding: 0;
  }
  .grip {
    font-weight: 650;
    cursor: pointer;
    max-width: 150px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .origin {
    font-size: 12px;
  }
  .x {
    cursor: pointer;
    padding: 0 5px;
    font-weight: 700;
  }
  .add {
    max-width: 190px;
  }
</style>
