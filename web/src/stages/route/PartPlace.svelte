<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { fieldOf, figureOf } from "$lib/document/addresses";
  import { valueOf, type BuildDocument, type Part } from "$lib/document/build";
  import { belongTo, NEW_MACHINE } from "$lib/document/machines";
  import { addHeader } from "$lib/document/sources";
  import NumberField from "$lib/ui/NumberField.svelte";

  /** Where a part stands, what feeds it, what it weighs and costs. */
  let {
    build,
    part,
    change,
  }: {
    build: BuildState;
    part: Part;
    change: (what: string, make: (target: Record<string, unknown>, draft: BuildDocument) => void) => void;
  } = $props();
  /** what has no place of its own: it lies between others, or is drawn by its face */
  const PLACELESS = ["interface", "source", "spreader", "heat_pipe", "sink", "panel"];
  const position = $derived(part.outline?.position_mm ?? []);

  function setFeed(id: string) {
    change("fed by", (target, draft) => {
      const feed = id === "new" ? addHeader(draft) : id;
      if (feed) target["feed"] = feed;
      else delete target["feed"];
    });
  }

  function setMachine(machine: string) {
    const id = part.id;
    build.edit(`${part.name || id}: which machine`, (draft) => belongTo(draft, id, machine));
  }

  function setPosition(axis: number, value: number) {
    change("where it stands", (target) => {
      const outline = (fieldOf(target, "outline") ?? { size_mm: [1, 1, 1] }) as { position_mm?: number[] };
      const next = [0, 1, 2].map((i) => (i === axis ? value : (outline.position_mm?.[i] ?? 0)));
      target["outline"] = { ...outline, position_mm: next };
    });
  }
</script>

{#if part.kind === "fan" || part.kind === "pump"}
  <label class="mt-2 flex items-baseline gap-2">
    <span class="soft">Fed by</span>
    <select
      class="field"
      value={part.feed ?? ""}
      disabled={!build.editable}
      onchange={(e) => setFeed(e.currentTarget.value)}
    >
      <option value="">nothing stated</option>
      {#each build.document?.feeds ?? [] as feed (feed.id)}<option value={feed.id}>{feed.name || feed.id}</option
        >{/each}
      <option value="new">a new header (1 A)</option>
    </select>
  </label>
{/if}
{#if part.kind === "source" || part.kind === "supply"}
  <label class="mt-2 flex items-baseline gap-2">
    <span class="soft">Belongs to</span>
    <select
      class="field"
      value={part.machine ?? ""}
      disabled={!build.editable}
      onchange={(e) => setMachine(e.currentTarget.value)}
    >
      <option value="">the one machine in this housing</option>
      {#each build.document?.machines ?? [] as machine (machine.id)}<option value={machine.id}
          >{machine.name || machine.id}</option
        >{/each}
      <option value={NEW_MACHINE}>another machine</option>
    </select>
  </label>
{/if}
{#if !PLACELESS.includes(part.kind)}
  <fieldset class="mt-2">
    <legend class="soft">Centre position from the inner left-front-bottom corner</legend>
    <div class="mt-1 flex flex-wrap gap-x-4 gap-y-1">
      {#each ["right", "back", "up"] as label, axis (label)}
        <NumberField
          {label}
          unit="mm"
          value={position[axis]}
          low={-5000}
          high={5000}
          width={62}
          disabled={!build.editable}
          onchange={(value) => setPosition(axis, value)}
        />
      {/each}
    </div>
  </fieldset>
{/if}
<p class="mt-2 flex flex-wrap gap-x-4 gap-y-1">
  {#each [["price", "Price", ""], ["mass_g", "Mass", "g"]] as [field, label, unit] (field)}
    <NumberField
      label={label!}
      unit={unit!}
      value={valueOf(figureOf(part, field!))}
      low={0}
      high={1e6}
      width={72}
      disabled={!build.editable}
      onchange={(value) => change(label!.toLowerCase(), (target) => (target[field!] = value))}
    />
  {/each}
</p>
