<script lang="ts">
  import { valueOf, type Lead } from "$lib/document/build";
  import { measuredMm, type Point } from "$lib/document/fit";
  import { acrossOf, addPoint, blockAir, changeEnd, changeLead, movePoint, takePoint } from "$lib/document/leads";
  import type { BuildState } from "$lib/state/build.svelte";
  import { outlines } from "$lib/state/outlines.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { fixed } from "$lib/units/format";
  import { leadSays, type LeadFit } from "./inPlace";

  /** One lead: its points, how it ends, how it is laid. */
  let { build, lead, fit }: { build: BuildState; lead: Lead; fit: LeadFit } = $props();
  const points = $derived((lead.points_mm ?? []) as Point[]);
  const edit = (what: string, change: Partial<Lead>) =>
    build.edit(`${what} of ${fit.name}`, (draft) => changeLead(draft, lead.id, change));
  const crosses = $derived(
    (build.document?.air_paths ?? []).filter((path) => {
      const across = acrossOf(build.document!, path.id);
      return across?.kind === "obstacle" && across.leads?.includes(lead.id);
    }),
  );
  /** Of the housing, across its longest side, where nobody told better. */
  const sectionCm2 = $derived.by(() => {
    const [a, b] = [...((build.document?.housing?.inner_size_mm as Point | null | undefined) ?? [200, 200, 200])].sort(
      (x, y) => x - y,
    );
    return Math.round((a! * b!) / 100);
  });
  const AXES = ["x", "y", "z"] as const;
  const SIDES = [
    ["begins", "Its beginning"],
    ["ends", "Its end"],
  ] as const;
  const MATERIALS: [NonNullable<Lead["material"]>, string][] = [
    ["soft_clear", "soft clear"],
    ["rubber", "rubber"],
    ["polyurethane", "polyurethane"],
    ["silicone", "silicone"],
  ];
</script>

<div class="editor" aria-label={fit.name} role="group">
  {#each leadSays(fit).slice(1) as one (one.text)}<p class={one.tone}>{one.text}</p>{/each}
  {#each points as point, at (at)}
    <div class="line">
      <span class="soft name">{at === 0 ? "begins at" : at === points.length - 1 ? "ends at" : `corner ${at}`}</span>
      {#each AXES as axis, i (axis)}
        <NumberField
          label="{axis} of point {at + 1}"
          hideLabel
          value={point[i]}
          low={-10000}
          high={10000}
          width={60}
          unit={i === 2 ? "mm" : ""}
          disabled={!build.editable}
          onchange={(mm) => build.edit(`way of ${fit.name}`, (draft) => movePoint(draft, lead.id, at, i, mm))}
        />
      {/each}
      {#if build.editable}
        {#if at < points.length - 1}
          <button
            class="link"
            onclick={() => build.edit(`corner of ${fit.name}`, (draft) => addPoint(draft, lead.id, at))}
            >corner behind it</button
          >
        {/if}
        {#if points.length > 2 && at > 0 && at < points.length - 1}
          <button
            class="link"
            onclick={() => build.edit(`corner of ${fit.name} gone`, (draft) => takePoint(draft, lead.id, at))}
            >take out</button
          >
        {/if}
      {/if}
    </div>
  {/each}
  {#if points.length < 2 && build.editable}
    <button class="button" onclick={() => build.edit(`way of ${fit.name}`, (draft) => addPoint(draft, lead.id, 0))}
      >Give it a way</button
    >
  {/if}
  <div class="line">
    <NumberField
      label="has"
      value={valueOf(lead.length_mm)}
      unit="mm"
      low={1}
      high={10000}
      width={62}
      disabled={!build.editable}
      onchange={(mm) => edit("length", { length_mm: measuredMm(mm) })}
      onclear={() => edit("length", { length_mm: null })}
    />
    <NumberField
      label="bent with"
      value={lead.bend_mm ?? undefined}
      unit="mm"
      low={1}
      high={1000}
      width={56}
      placeholder={fixed(fit.bends[0]?.least_mm, 0)}
      disabled={!build.editable}
      onchange={(mm) => edit("bend", { bend_mm: mm })}
      onclear={() => edit("bend", { bend_mm: null })}
    />
    {#if lead.tube}
      <NumberField
        label="outside"
        value={fit.outside_mm}
        unit="mm"
        low={1}
        high={200}
        width={52}
        disabled={!build.editable}
        onchange={(mm) => edit("outside", { outside_mm: mm })}
      />
      <select
        class="field"
        aria-label="Tube of"
        disabled={!build.editable}
        value={lead.material ?? "soft_clear"}
        onchange={(e) => edit("material", { material: e.currentTarget.value as Lead["material"] })}
      >
        {#each MATERIALS as [id, text] (id)}<option value={id}>{text}</option>{/each}
      </select>
    {/if}
    <label
      ><input
        type="checkbox"
        checked={lead.tied ?? false}
        disabled={!build.editable}
        onchange={(e) => edit("tie", { tied: e.currentTarget.checked })}
      /> tied within 40 mm of blades</label
    >
    {#if !lead.tube}
      <label
        ><input
          type="checkbox"
          checked={lead.plugged_inside ?? false}
          disabled={!build.editable}
          onchange={(e) => edit("plugging", { plugged_inside: e.currentTarget.checked })}
        /> plugged with two hands inside</label
      >
    {/if}
  </div>
  {#each SIDES as [side, label] (side)}
    <div class="line">
      <span class="soft name">{label}</span>
      <select
        class="field"
        aria-label="{label}: {lead.tube ? 'fitting' : 'plug'}"
        disabled={!build.editable}
        value={(lead.tube ? lead[side]?.fitting : lead[side]?.plug) ?? ""}
        onchange={(e) => {
          const kind = e.currentTarget.value || null;
          build.edit(`end of ${fit.name}`, (draft) =>
            changeEnd(draft, lead.id, side, { [lead.tube ? "fitting" : "plug"]: kind }),
          );
        }}
      >
        <option value="">{lead.tube ? "no fitting told" : "no plug told"}</option>
        {#each lead.tube ? outlines.fittings : outlines.plugs as one (one.id)}<option value={one.id}>{one.name}</option
          >{/each}
      </select>
      {#if lead.tube && lead[side]?.fitting}
        <NumberField
          label="through a sheet of"
          value={lead[side]?.sheet_mm ?? undefined}
          unit="mm"
          low={0.1}
          high={50}
          width={50}
          disabled={!build.editable}
          onchange={(mm) =>
            build.edit(`end of ${fit.name}`, (draft) => changeEnd(draft, lead.id, side, { sheet_mm: mm }))}
          onclear={() =>
            build.edit(`end of ${fit.name}`, (draft) => changeEnd(draft, lead.id, side, { sheet_mm: null }))}
        />
      {/if}
    </div>
  {/each}
  {#if build.editable && build.document?.air_paths.length}
    <div class="line">
      <span class="soft name">Blocks</span>
      {#if crosses.length}the air of {crosses.map((path) => path.name || path.id).join(", ")}{/if}
      <select
        class="field"
        aria-label="Crosses the air of"
        onchange={(e) => {
          const path = e.currentTarget.value;
          e.currentTarget.value = "";
          if (path) build.edit(`${fit.name} in the air`, (draft) => blockAir(draft, lead.id, path, sectionCm2));
        }}
      >
        <option value="">{crosses.length ? "and of …" : "the air of …"}</option>
        {#each build.document.air_paths as path (path.id)}<option value={path.id}>{path.name || path.id}</option>{/each}
      </select>
      <span class="soft">{fixed(fit.outside_mm, 0)} mm wide; Air tells what it costs</span>
    </div>
  {/if}
  <div class="line">
    <span class="soft name">Must also reach</span>
    {#each (lead.also_ends_at_mm ?? []) as Point[] as point, at (at)}
      <span class="num">{point.map((mm) => fixed(mm, 0)).join(", ")}</span>
      {#if build.editable}
        <button
          class="link"
          onclick={() =>
            edit("place while it is put in", {
              also_ends_at_mm: (lead.also_ends_at_mm ?? []).filter((_, i) => i !== at),
            })}>take out</button
        >
      {/if}
    {/each}
    {#if build.editable && points.length > 1}
      {@const last = points.at(-1)!}
      <NumberField
        label="while it is put in, its end so much higher"
        value={undefined}
        unit="mm"
        low={-2000}
        high={2000}
        width={56}
        onchange={(mm) =>
          edit("place while it is put in", {
            also_ends_at_mm: [...(lead.also_ends_at_mm ?? []), [last[0], last[1], last[2] + mm]],
          })}
      />
    {/if}
  </div>
</div>

<style>
  .editor {
    background: var(--sunk);
    border-radius: 8px;
    padding: 6px 10px 8px;
    margin: 6px 0;
  }
  .line {
    display: flex;
    flex-wrap: wrap;
    gap: 5px 10px;
    align-items: baseline;
    font-size: 13.5px;
    margin-top: 5px;
  }
  select {
    max-width: 100%;
  }
  .name {
    min-width: 64px;
  }
  p {
    font-size: 13.5px;
  }
  .bad {
    color: var(--too-hot);
  }
  .warn {
    color: var(--tight);
  }
</style>
