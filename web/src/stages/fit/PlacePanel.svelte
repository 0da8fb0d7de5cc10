<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Face } from "$lib/document/build";
  import { outlineBy, place, reachedFrom, turn, unplace, type Point, type Reach } from "$lib/document/fit";
  import { FACES } from "$lib/document/housing";
  import { outlines } from "$lib/state/outlines.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { TOOLS } from "./inPlace";

  /** Where the part in view stands and how large it is; and what has no place yet. */
  let {
    build,
    plan,
    selected = $bindable(),
  }: { build: BuildState; plan: Schemas["Plan"]; selected: string | null } = $props();
  void outlines.load();
  const placed = $derived(plan.placed.find((part) => part.part === selected));
  const part = $derived(build.document?.parts.find((one) => one.id === selected));
  const size = $derived(part?.outline?.size_mm as Point | null | undefined);
  const AXES = [
    ["x", "right"],
    ["y", "back"],
    ["z", "up"],
  ] as const;
  const nameOf = (id: string) => build.document?.parts.find((one) => one.id === id)?.name || id;

  function put(id: string) {
    const inside = (plan.inside_mm as Point | null) ?? [200, 200, 200];
    build.edit(`place ${nameOf(id)}`, (draft) => place(draft, id, inside.map((mm) => mm / 2) as Point));
    selected = id;
  }
  function resize(axis: number, mm: number) {
    const now = (size ?? placed?.size_mm ?? [50, 50, 50]) as Point;
    const to = now.map((old, i) => (i === axis ? mm : Math.round(old * 10) / 10)) as Point;
    build.edit(`size of ${nameOf(selected!)}`, (draft) => outlineBy(draft, selected!, { size_mm: to }));
  }
</script>

{#if part && (placed || plan.unknown_size.includes(part.id))}
  <div class="line">
    <strong>{part.name || part.id}</strong>
    {#if placed}
      <span class="soft">middle</span>
      {#each AXES as [axis, way], i (axis)}
        <NumberField
          label={axis}
          value={Math.round(placed.middle_mm[i]! * 10) / 10}
          width={60}
          disabled={!build.editable}
          onchange={(mm) =>
            build.edit(`move ${part.id} ${way}`, (draft) =>
              place(draft, part.id, placed.middle_mm.map((old, k) => (k === i ? mm : old)) as Point),
            )}
        />
      {/each}
    {/if}
    <span class="soft">size</span>
    {#each AXES as [axis], i (axis)}
      <NumberField
        label="{axis} size"
        hideLabel
        value={placed ? Math.round(placed.size_mm[i]! * 10) / 10 : undefined}
        low={0.1}
        high={5000}
        width={60}
        unit={i === 2 ? "mm" : "×"}
        disabled={!build.editable}
        onchange={(mm) => resize(i, mm)}
      />
    {/each}
    <label
      >as
      <select
        class="field body"
        disabled={!build.editable}
        value={size ? "" : (part.outline?.body ?? "")}
        onchange={(e) =>
          e.currentTarget.value &&
          build.edit(`outline of ${part.name || part.id}`, (draft) =>
            outlineBy(draft, part.id, { body: e.currentTarget.value }),
          )}
      >
        <option value="">{size ? "measured" : "its class"}</option>
        {#each outlines.bodies as body (body.id)}<option value={body.id}>{body.name}</option>{/each}
      </select></label
    >
    {#if placed}
      {#each AXES as [axis, way], i (axis)}
        <button
          class="button small"
          disabled={!build.editable}
          title="a quarter turn about the axis that runs {way}"
          onclick={() => build.edit(`turn ${part.id}`, (draft) => turn(draft, part.id, i as 0 | 1 | 2))}
          >↻ {axis}</button
        >
      {/each}
      <label
        >reached from the
        <select
          class="field"
          disabled={!build.editable}
          value={part.outline?.reached_from ?? ""}
          onchange={(e) => {
            const face = (e.currentTarget.value || null) as Face | null;
            build.edit(`reach of ${nameOf(part.id)}`, (draft) => reachedFrom(draft, part.id, face));
          }}
        >
          <option value="">(not once closed)</option>
          {#each FACES as face (face)}<option>{face}</option>{/each}
        </select></label
      >
      {#if part.outline?.reached_from}
        <select
          class="field"
          aria-label="Reached by"
          disabled={!build.editable}
          value={part.outline.reached_by ?? "fingers"}
          onchange={(e) => {
            const by = e.currentTarget.value as Reach;
            build.edit(`reach of ${nameOf(part.id)}`, (draft) =>
              reachedFrom(draft, part.id, part.outline?.reached_from ?? null, by),
            );
          }}
        >
          {#each Object.entries(TOOLS) as [id, text] (id)}<option value={id}>by {text}</option>{/each}
        </select>
      {/if}
      <button
        class="link"
        disabled={!build.editable}
        onclick={() => build.edit(`take ${part.id} out of the plan`, (draft) => unplace(draft, part.id))}
        >take out</button
      >
    {/if}
  </div>
{/if}
{#if plan.unplaced.length && build.editable}
  <div class="line">
    <span class="soft">Not placed:</span>
    {#each plan.unplaced as id (id)}
      <button class="button small" onclick={() => put(id)}>{nameOf(id)}</button>
    {/each}
  </div>
{/if}
{#if plan.unknown_size.length && build.editable}
  <div class="line">
    <span class="soft">Without a size:</span>
    {#each plan.unknown_size as id (id)}
      <button class="button small dotted" onclick={() => (selected = id)}>{nameOf(id)}</button>
    {/each}
  </div>
{/if}

<style>
  .line {
    display: flex;
    flex-wrap: wrap;
    gap: 5px 8px;
    align-items: baseline;
    font-size: 13.5px;
    margin-top: 6px;
  }
  .small {
    padding: 2px 8px;
    font-size: 13px;
  }
  .dotted {
    border: 1px dotted var(--soft);
  }
  .body {
    max-width: 150px;
  }
</style>
