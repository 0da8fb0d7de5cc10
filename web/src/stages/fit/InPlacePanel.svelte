<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import type { BuildDocument } from "$lib/document/build";
  import { insulate, takeSheet } from "$lib/document/fit";
  import { leaves } from "$lib/document/elements";
  import type { BuildState } from "$lib/state/build.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import StatusMark from "$lib/ui/StatusMark.svelte";
  import { fixed } from "$lib/units/format";
  import { floorSays, heightSays, reachedSays, shortSays } from "./inPlace";
  import { STATUS } from "./words";

  /** What follows from where parts stand: what is over what, what is reached, what may short. */
  let { build, fit }: { build: BuildState; fit: Schemas["Fit"] } = $props();
  const loops = $derived(build.document?.loops ?? []);
  const nameOf = (id: string) => build.document?.parts.find((part) => part.id === id)?.name || id;
  const waters = (loop: (typeof loops)[number]) =>
    [...new Set(leaves(loop.elements))].filter((id) => {
      const kind = build.document?.parts.find((part) => part.id === id)?.kind;
      return kind !== "tube";
    });
  type Floor = NonNullable<NonNullable<BuildDocument["housing"]>["floor"]> | null;
  const FLOORS = ["steel", "aluminium", "printed", "acrylic", "plywood"];
  const ENDS = [
    ["fill", "filled at"],
    ["drain", "emptied at"],
  ] as const;
</script>

{#snippet line(says: { tone: keyof typeof STATUS; text: string })}
  <StatusMark status={STATUS[says.tone]} size={13} /> <span class={says.tone}>{says.text}</span>
{/snippet}

<section class="panel" aria-label="Heights, reach and shorts">
  <h2>Heights, reach, shorts</h2>
  <ul>
    {#each fit.heights as check, i (i)}<li>{@render line(heightSays(check))}</li>{/each}
    {#each fit.reached as one (one.part)}<li>{@render line(reachedSays(one))}</li>{/each}
    {#each fit.shorts as one (one.live + one.metal)}
      <li>
        {@render line(shortSays(one))}
        {#if build.editable}
          {#if one.says === "insulate"}
            <button
              class="link"
              onclick={() =>
                build.edit(`sheet under ${one.live_name}`, (draft) => insulate(draft, one.live, one.metal))}
              >Put a sheet between</button
            >
          {:else}
            <button
              class="link"
              onclick={() =>
                build.edit(`sheet under ${one.live_name} gone`, (draft) => takeSheet(draft, one.live, one.metal))}
              >no sheet</button
            >
          {/if}
        {/if}
      </li>
    {/each}
    {#if fit.floor}<li>{@render line(floorSays(fit.floor))}</li>{/if}
  </ul>
  {#if fit.travel.length}
    <h3>Before it travels</h3>
    <ul>
      {#each fit.travel as one (one.part)}
        <li>{one.name}, {fixed(one.mass_g / 1000, 1)} kg: {one.do}</li>
      {/each}
    </ul>
  {/if}
  {#if !fit.heights.length && !fit.reached.length && !fit.shorts.length}
    <p class="soft">
      Place reservoir, pump, boards and supply in the plan, and say from which side a part must be reached.
    </p>
  {/if}
  <div class="lines">
    <NumberField
      label="Feet"
      value={build.document?.housing?.feet_mm ?? undefined}
      unit="mm"
      low={0}
      high={500}
      width={54}
      disabled={!build.editable}
      onchange={(mm) =>
        build.edit("feet", (draft) => {
          draft.housing = { ...draft.housing, feet_mm: mm };
        })}
      onclear={() =>
        build.edit("feet", (draft) => {
          draft.housing = { ...draft.housing, feet_mm: null };
        })}
    />
    <label
      >Housing of
      <input
        class="field"
        style:width="120px"
        value={build.document?.housing?.material ?? ""}
        placeholder="steel, wood …"
        disabled={!build.editable}
        onchange={(e) => {
          const words = e.currentTarget.value.trim() || null;
          build.edit("material of the housing", (draft) => {
            draft.housing = { ...draft.housing, material: words };
          });
        }}
      /></label
    >
    <label
      >Floor of
      <select
        class="field"
        disabled={!build.editable}
        value={build.document?.housing?.floor ?? ""}
        onchange={(e) => {
          const floor = (e.currentTarget.value || null) as Floor;
          build.edit("floor", (draft) => {
            draft.housing = { ...draft.housing, floor };
          });
        }}
      >
        <option value="">not told</option>
        {#each FLOORS as one (one)}<option>{one}</option>{/each}
      </select></label
    >
    {#if fit.floor}
      <NumberField
        label="Floor"
        hideLabel
        value={fit.floor.thickness_mm}
        unit="mm"
        low={0.1}
        high={100}
        width={48}
        disabled={!build.editable}
        onchange={(mm) =>
          build.edit("floor", (draft) => {
            draft.housing = { ...draft.housing, floor_mm: mm };
          })}
      />
    {/if}
    {#each loops as loop (loop.id)}
      {#each ENDS as [key, label] (key)}
        <label
          >{loops.length > 1 ? `${loop.name || loop.id} ` : ""}{label}
          <select
            class="field"
            disabled={!build.editable}
            value={loop[key] ?? ""}
            onchange={(e) => {
              const part = e.currentTarget.value || null;
              build.edit(`${loop.name || loop.id} ${label}`, (draft) => {
                const own = draft.loops.find((one) => one.id === loop.id);
                if (own) own[key] = part;
              });
            }}
          >
            <option value="">not told</option>
            {#each waters(loop) as id (id)}<option value={id}>{nameOf(id)}</option>{/each}
          </select></label
        >
      {/each}
    {/each}
  </div>
</section>

<style>
  ul {
    font-size: 14px;
  }
  li {
    padding: 2px 0;
  }
  .bad {
    color: var(--too-hot);
  }
  .warn {
    color: var(--tight);
  }
  p {
    font-size: 14px;
  }
  h3 {
    font-weight: 650;
    font-size: 14px;
  }
  .lines {
    display: flex;
    flex-wrap: wrap;
    gap: 5px 12px;
    align-items: baseline;
    font-size: 13.5px;
    margin-top: 6px;
  }
</style>
