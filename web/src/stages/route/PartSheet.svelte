<script lang="ts">
  import type { BuildState } from "$lib/build.svelte";
  import { classes } from "$lib/classes.svelte";
  import { ownerOf, withValue, type BuildDocument, type Figure, type Part } from "$lib/document/build";
  import { addHeader, OPTIONAL, removePart } from "$lib/document/assembly";
  import { shelf, worthKeeping } from "$lib/shelf.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { words } from "$lib/units/format";
  import CurveBox from "./CurveBox.svelte";
  import FigureRow from "./FigureRow.svelte";

  /** The side sheet of whatever an address belongs to: a part, a place, the part of a hop, a loop, a zone. */
  let { build, address }: { build: BuildState; address: string } = $props();
  void classes.load();
  const FLAGGED = { loaded: ["filter", "strainer"], joined: ["coupling"] };

  const ownerId = $derived(resolve(build.document, address));
  const owner = $derived(build.document ? (ownerOf(build.document, ownerId) as Part | undefined) : undefined);
  const kind = $derived(owner?.kind ?? (owner && "temperature_kind" in owner ? "place" : "other"));
  const known = $derived(classes.byId(owner?.class));
  const choices = $derived(classes.of(kind));
  const figures = $derived.by(() => {
    const own = Object.entries(owner ?? {}).filter(([key, value]) => isFigure(key, value)) as [string, Figure][];
    const given = new Set(own.map(([key]) => key));
    const rest = Object.entries(known?.figures ?? {}).filter(([key]) => !given.has(key));
    return [
      ...own.map(([field, figure]) => ({ field, figure, byClass: undefined })),
      ...rest.map(([field, pair]) => ({ field, figure: undefined, byClass: pair as number[] })),
    ];
  });
  const result = $derived(build.result?.loops.flatMap((l) => l.elements).find((e) => e.address === ownerId));
  const command = $derived(build.workload?.movers?.[ownerId]);

  function isFigure(key: string, value: unknown): boolean {
    if (["altitude_m", "section_mm", "thickness_mm", "count", "sections"].includes(key)) return true;
    return (
      /_(mm2k_w|w_mk|k_w|w_k|j_k|mm2|cm2|mm|um|kpa|pa|m3_h|rpm|dba|ml|w|a|c|l|m|l_min)$|factor|share|loss|efficiency|coverage|duty|^dust$/.test(
        key,
      ) &&
      (typeof value === "number" || (typeof value === "object" && value !== null && "value" in value))
    );
  }

  function resolve(document: BuildDocument | null, target: string): string {
    const head = target.split("/")[0] ?? "";
    if (!document) return head;
    for (const route of document.routes) {
      const hop = route.hops.find((h) => h.id === head);
      if (hop) return hop.part ?? (hop.zone && !target.includes("/") ? route.place : head);
    }
    return head;
  }

  function set(field: string, figure: Figure | undefined, value: number) {
    build.edit(`${owner?.name || ownerId}: ${field}`, (draft) => {
      const target = ownerOf(draft, ownerId);
      if (target) target[field] = withValue(figure, value);
    });
  }

  function setClass(id: string) {
    build.edit(`${owner?.name || ownerId}: class`, (draft) => {
      const target = ownerOf(draft, ownerId) as Part | undefined;
      if (target) target.class = id;
    });
  }

  const sort = $derived(
    kind !== "other" ? kind : build.document?.loops.some((l) => l.id === ownerId) ? "loop" : "other",
  );
  const optional = $derived(
    Object.entries(OPTIONAL[sort] ?? {}).filter(([field]) => !figures.some((row) => row.field === field)),
  );
  const coolants = $derived(shelf.items.filter((item) => item.kind === "coolant"));
  const mixture = $derived(JSON.stringify((owner as { coolant?: unknown } | undefined)?.coolant ?? {}));
  const feeds = $derived((build.document?.["feeds"] ?? []) as { id: string; name?: string }[]);
  const position = $derived((owner?.["outline"] as { position_mm?: number[] } | undefined)?.position_mm ?? []);
  $effect(() => {
    if (sort === "loop") void shelf.load();
  });

  function setCoolant(id: string) {
    const item = coolants.find((c) => c.id === id);
    if (!item) return;
    build.edit(`${owner?.name || ownerId}: coolant`, (draft) => {
      const target = ownerOf(draft, ownerId);
      if (target) target["coolant"] = item.part["mixture"];
    });
  }

  function setFeed(id: string) {
    build.edit(`${owner?.name || ownerId}: fed by`, (draft) => {
      const target = ownerOf(draft, ownerId);
      const feed = id === "new" ? addHeader(draft) : id;
      if (target && feed) target["feed"] = feed;
      else if (target) delete target["feed"];
    });
  }

  function setPosition(axis: number, value: number) {
    build.edit(`${owner?.name || ownerId}: where it stands`, (draft) => {
      const target = ownerOf(draft, ownerId);
      if (!target) return;
      const outline = (target["outline"] ?? { size_mm: [1, 1, 1] }) as { position_mm?: number[] };
      const next = [0, 1, 2].map((i) => (i === axis ? value : (outline.position_mm?.[i] ?? 0)));
      target["outline"] = { ...outline, position_mm: next };
    });
  }

  const flags = $derived(
    (Object.keys(FLAGGED) as (keyof typeof FLAGGED)[]).filter((flag) => owner && FLAGGED[flag].includes(kind)),
  );
  let said = $state("");

  function setFlag(flag: string, value: boolean) {
    build.edit(`${owner?.name || ownerId}: ${flag}`, (draft) => {
      const target = ownerOf(draft, ownerId);
      if (target) target[flag] = value;
    });
  }

  async function keep() {
    const part = build.document && worthKeeping(build.document, ownerId);
    if (!part || !owner) return;
    const faults = await shelf.put(owner.name || ownerId, part);
    said = faults.length
      ? faults.map((fault) => `${fault.where}: ${fault.what}`).join("; ")
      : "It lies on your shelf now.";
  }

  function takeOut() {
    const id = ownerId;
    build.sheet = null;
    build.edit(`take ${owner?.name || id} out`, (draft) => removePart(draft, id));
  }

  function setOff(off: boolean) {
    build.edit(`${owner?.name || ownerId}: ${off ? "off" : "on"}`, (draft) => {
      const workload = draft.workloads.find((w) => w.id === build.workloadId);
      if (workload) workload.movers = { ...workload.movers, [ownerId]: off ? { off: true } : { duty: 0.6 } };
    });
  }

  function setDuty(value: number) {
    build.edit(`${owner?.name || ownerId}: duty`, (draft) => {
      const workload = draft.workloads.find((w) => w.id === build.workloadId);
      if (workload) workload.movers = { ...workload.movers, [ownerId]: { duty: value / 100 } };
    });
  }
</script>

<section class="sheet" aria-label="Side sheet">
  <header>
    <h2>{owner?.name || ownerId}</h2>
    <button class="button" onclick={() => (build.sheet = null)} aria-label="Esc: close the sheet">Esc</button>
  </header>
  {#if !owner}
    <p class="soft">This belongs to no single part.</p>
  {:else}
    {#if choices.length}
      <label class="mb-2 grid gap-1">
        <span class="soft">Class</span>
        <select
          class="field"
          value={owner.class ?? ""}
          disabled={!build.editable}
          onchange={(e) => setClass(e.currentTarget.value)}
        >
          {#if !owner.class}<option value="">none</option>{/if}
          {#each choices as choice (choice.id)}<option value={choice.id}>{choice.name}</option>{/each}
        </select>
      </label>
    {/if}
    {#each flags as flag (flag)}
      <label class="mb-1 flex items-center gap-2"
        ><input
          type="checkbox"
          checked={Boolean(owner[flag] ?? flag === "joined")}
          disabled={!build.editable}
          onchange={(e) => setFlag(flag, e.currentTarget.checked)}
        />
        {flag}</label
      >
    {/each}
    {#if kind === "fan" || kind === "pump"}
      <label class="mb-1 flex items-center gap-2"
        ><input
          type="checkbox"
          checked={Boolean(command?.off)}
          disabled={!build.editable}
          onchange={(e) => setOff(e.currentTarget.checked)}
        />
        off in this workload</label
      >
      <FigureRow
        label="duty in this workload"
        unit="%"
        value={(command?.duty ?? 1) * 100}
        low={0}
        high={100}
        disabled={!build.editable}
        onchange={setDuty}
      />
    {/if}
    {#each figures as { field, figure, byClass } (field)}
      <FigureRow
        {field}
        {figure}
        {byClass}
        disabled={!build.editable}
        onchange={(value) => set(field, figure, value)}
      />
    {/each}
    {#if sort === "loop"}
      <label class="mt-2 grid gap-1">
        <span class="soft">Coolant</span>
        <select class="field" disabled={!build.editable} onchange={(e) => setCoolant(e.currentTarget.value)}>
          {#each coolants as item (item.id)}
            <option value={item.id} selected={JSON.stringify(item.part["mixture"]) === mixture}>{item.name}</option>
          {/each}
        </select>
      </label>
    {/if}
    {#if optional.length}
      <label class="mt-2 flex items-baseline gap-2">
        <span class="soft">State another figure</span>
        <select
          class="field"
          value=""
          disabled={!build.editable}
          onchange={(e) => {
            const field = e.currentTarget.value;
            if (field) set(field, undefined, OPTIONAL[sort]![field]!);
            e.currentTarget.value = "";
          }}
        >
          <option value="">…</option>
          {#each optional as [field] (field)}<option value={field}>{words(field)}</option>{/each}
        </select>
      </label>
    {/if}
    {#if kind === "fan" || kind === "pump"}
      <label class="mt-2 flex items-baseline gap-2">
        <span class="soft">Fed by</span>
        <select
          class="field"
          value={(owner["feed"] as string | undefined) ?? ""}
          disabled={!build.editable}
          onchange={(e) => setFeed(e.currentTarget.value)}
        >
          <option value="">nothing stated</option>
          {#each feeds as feed (feed.id)}<option value={feed.id}>{feed.name || feed.id}</option>{/each}
          <option value="new">a new header (1 A)</option>
        </select>
      </label>
    {/if}
    {#if owner.kind && !["interface", "source"].includes(kind)}
      <fieldset class="mt-2">
        <legend class="soft">Where its middle stands, from the inner corner left, front, bottom</legend>
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
      </fieldset>
    {/if}
    {#if (kind === "fan" || kind === "pump") && owner.kind}<CurveBox {build} part={ownerId} {kind} />{/if}
    {#if owner.kind && kind !== "source" && kind !== "supply"}
      <div class="mt-3 flex flex-wrap gap-2">
        <button class="button" onclick={keep}>Put on the shelf</button>
        <button class="button" onclick={takeOut} disabled={!build.editable}>Take out of the build</button>
      </div>
      <p class="soft text-sm" role="status">{said}</p>
    {/if}
    {#if result}
      <p class="soft mt-3">
        Solved: {result.flow_l_min.toFixed(2)} l/min, {result.drop_kpa.toFixed(2)} kPa, coolant {result.inlet_c.toFixed(
          1,
        )} to
        {result.outlet_c.toFixed(1)} °C.
      </p>
    {/if}
    <p class="soft mt-3 text-sm">
      What you type is your own statement: its guess mark goes, its tolerance becomes the default of its kind.
    </p>
  {/if}
</section>

<style>
  .sheet {
    position: fixed;
    top: 66px;
    right: 0;
    bottom: 0;
    width: 372px;
    z-index: 20;
    overflow-y: auto;
    background: var(--panel);
    border-left: 2px solid var(--accent);
    padding: 14px 16px;
    box-shadow: -6px 0 24px rgb(0 0 0 / 0.14);
  }
  header {
    display: flex;
    justify-content: space-between;
    align-items: center;
    margin-bottom: 10px;
  }
</style>
