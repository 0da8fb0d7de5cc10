<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { classes } from "$lib/state/classes.svelte";
  import { fieldOf } from "$lib/document/addresses";
  import { ownerOf, placeOf, withValue, type BuildDocument } from "$lib/document/build";
  import { addable, fieldsOf, modelOf, rowsOf, type Field } from "$lib/document/fields";
  import { isLocked, toggleLock } from "$lib/document/locks";
  import { materials } from "$lib/state/materials.svelte";
  import Fields from "$lib/ui/Fields.svelte";
  import Sheet from "$lib/ui/Sheet.svelte";
  import { fixed } from "$lib/units/format";
  import CurveBox from "./CurveBox.svelte";
  import LoopCoolant from "./LoopCoolant.svelte";
  import MoverTold from "./MoverTold.svelte";
  import CutPanel from "$lib/sheet/CutPanel.svelte";
  import LimitsPanel from "$lib/sheet/LimitsPanel.svelte";
  import MemoryPanel from "$lib/sheet/MemoryPanel.svelte";
  import { isMemory } from "$lib/document/memory";
  import PointsTable from "$lib/sheet/PointsTable.svelte";
  import PlacesPanel from "$lib/sheet/PlacesPanel.svelte";
  import WorkloadPanel from "$lib/sheet/WorkloadPanel.svelte";
  import PartActions from "$lib/sheet/PartActions.svelte";
  import PartPlace from "./PartPlace.svelte";
  import BlockSection from "./solid/BlockSection.svelte";
  import BodyPanel from "./solid/BodyPanel.svelte";
  import LawNote from "./solid/LawNote.svelte";
  import PipePanel from "./solid/PipePanel.svelte";
  import RouteHops from "./solid/RouteHops.svelte";
  import SolidChoices from "./solid/SolidChoices.svelte";

  /** The side sheet of whatever an address belongs to: a part, a place, the part of a hop, a loop, a zone. */
  let { build, address }: { build: BuildState; address: string } = $props();
  void classes.load();

  const ownerId = $derived(resolve(build.document, address));
  const owner = $derived(build.document ? ownerOf(build.document, ownerId) : undefined);
  const part = $derived(build.document?.parts.find((own) => own.id === ownerId));
  const model = $derived(build.document && owner ? modelOf(build.document, owner) : "");
  const fields = $derived(fieldsOf(model));
  const kind = $derived(part?.kind ?? (model === "Place" ? "place" : "other"));
  const name = $derived(String(fieldOf(owner, "name") ?? "") || ownerId);
  const known = $derived(classes.byId(fieldOf(owner, "class") as string | undefined));
  const choices = $derived(classes.of(kind));
  // figures that somebody is about to state: shown empty, stored when typed
  let added = $state.raw<string[]>([]);
  $effect(() => {
    if (ownerId) added = [];
  });
  const byClass = $derived({ ...materials.figuresOf(kind, owner), ...known?.figures } as Record<string, number[]>);
  const rows = $derived(owner ? rowsOf(fields, owner, byClass, added) : []);
  const flags = $derived(Object.values(fields).filter((field) => ["loaded", "joined"].includes(field.key)));
  const result = $derived(build.result?.loops.flatMap((l) => l.elements).find((e) => e.address === ownerId));
  const body = $derived(build.result?.bodies.find((b) => b.address === ownerId));
  const pipe = $derived(build.result?.pipes.find((p) => p.address === ownerId));
  const hop = $derived(build.result?.places.flatMap((p) => p.hops).find((h) => h.address === address));
  const place = $derived(build.document && kind === "place" ? placeOf(build.document, ownerId) : undefined);
  const workload = $derived(build.document?.workloads.find((own) => own.id === ownerId));

  const lockable = $derived(!!part || kind === "place" || model === "Loop");
  function lock(field: Field) {
    const address = `${ownerId}/${field.key}`;
    build.edit(`lock of ${name}, ${field.label}`, (draft) => toggleLock(draft, address));
  }

  function rename(text: string) {
    if (text.trim() && text.trim() !== name)
      change(`called ${text.trim()}`, (target) => (target["name"] = text.trim()));
  }

  /** ``target`` is nothing for a moment while the sheet is closed. */
  function resolve(document: BuildDocument | null, target: string | null): string {
    const head = target?.split("/")[0] ?? "";
    const route = document?.routes.find((own) => own.hops.some((h) => h.id === head));
    const found = route?.hops.find((h) => h.id === head);
    if (!route || !found) return head;
    return found.part ?? found.parts?.[0] ?? (found.zone && !target?.includes("/") ? route.place : head);
  }

  /** Change what this sheet is about, as one named step that can be undone. */
  function change(what: string, make: (target: Record<string, unknown>, draft: BuildDocument) => void) {
    const id = ownerId;
    build.edit(`${name}: ${what}`, (draft) => {
      const target = ownerOf(draft, id);
      if (target) make(target as unknown as Record<string, unknown>, draft);
    });
  }
</script>

<Sheet label="Side sheet" title={name} close={() => (build.sheet = null)}>
  {#if !owner}
    <p class="soft">This belongs to no single part.</p>
  {:else}
    {#if "name" in owner || part || place}
      <label class="mb-2 flex items-baseline gap-2">
        <span class="soft">Name</span>
        <input
          class="field grow"
          value={name}
          maxlength="80"
          disabled={!build.editable}
          onchange={(e) => rename(e.currentTarget.value)}
        />
      </label>
    {/if}
    {#if workload}<WorkloadPanel {build} {workload} />{/if}
    {#if body}<BodyPanel {build} {body} />{/if}
    {#if pipe}<PipePanel {build} {pipe} />{/if}
    {#if part?.kind === "spreader"}<BlockSection {part} />{/if}
    {#if hop?.law}<LawNote {hop} material={kind === "interface" ? known : undefined} />{/if}
    {#if choices.length}
      <label class="mb-2 grid grid-cols-1 gap-1">
        <span class="soft">Class</span>
        <select
          class="field"
          value={known?.id ?? ""}
          disabled={!build.editable}
          onchange={(e) => change("class", (target) => (target["class"] = e.currentTarget.value))}
        >
          {#if !known}<option value="">none</option>{/if}
          {#each choices as choice (choice.id)}<option value={choice.id}>{choice.name}</option>{/each}
        </select>
      </label>
    {/if}
    {#each flags as flag (flag.key)}
      <label class="mb-1 flex items-center gap-2"
        ><input
          type="checkbox"
          checked={Boolean(fieldOf(owner, flag.key) ?? flag.key === "joined")}
          disabled={!build.editable}
          onchange={(e) => change(flag.label, (target) => (target[flag.key] = e.currentTarget.checked))}
        />
        {flag.label}</label
      >
    {/each}
    {#if kind === "fan" || kind === "pump"}<MoverTold {build} mover={ownerId} {name} />{/if}
    {#if part}<SolidChoices {build} {part} {fields} {change} />{/if}
    <Fields
      {rows}
      addable={addable(fields, rows)}
      disabled={!build.editable}
      onadd={(key) => (added = [...added, key])}
      onorigin={(field, figure) => change(`${field.label}, measured`, (target) => (target[field.key] = figure))}
      isLocked={(field) => !!build.document && isLocked(build.document, `${ownerId}/${field.key}`)}
      onlock={lockable ? lock : undefined}
      onchange={(field, figure, value) =>
        change(field.label, (target) => (target[field.key] = field.whole ? value : withValue(figure, value)))}
    />
    {#if model === "Loop"}<LoopCoolant {build} loop={ownerId} {change} />{/if}
    {#if part}
      <PartPlace {build} {part} {change} />
      <PointsTable {build} {part} />
      {#if part.kind === "fan" || part.kind === "pump"}<CurveBox {build} part={ownerId} kind={part.kind} />{/if}
      {#if part.kind === "source" || part.kind === "supply"}<PlacesPanel {build} {part} />{/if}
      {#if part.kind === "opening"}<CutPanel {build} {part} />{/if}
      {#if isMemory(part)}<MemoryPanel {build} {part} />{/if}
      <PartActions {build} {part} />
    {/if}
    {#if place}<LimitsPanel {build} {place} />{/if}
    {#if kind === "place"}<RouteHops {build} place={ownerId} />{/if}
    {#if result}
      <p class="soft mt-3">
        Solved: {fixed(result.flow_l_min, 2)} l/min, {fixed(result.drop_kpa, 2)} kPa, coolant {fixed(result.inlet_c)} to
        {fixed(result.outlet_c)} °C.
      </p>
    {/if}
    <p class="soft mt-3 text-sm">A figure you enter replaces the estimate and gets the standard tolerance.</p>
  {/if}
</Sheet>
