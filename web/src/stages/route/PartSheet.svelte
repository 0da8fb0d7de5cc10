<script lang="ts">
  import type { BuildState } from "$lib/build.svelte";
  import { classes } from "$lib/classes.svelte";
  import { fieldOf, figureOf } from "$lib/document/addresses";
  import { ownerOf, valueOf, withValue, type BuildDocument, type Figure, type Part } from "$lib/document/build";
  import { OPTIONAL } from "$lib/document/kinds";
  import { removePart } from "$lib/document/parts";
  import { addHeader } from "$lib/document/sources";
  import { materials } from "$lib/materials.svelte";
  import { shelf, worthKeeping } from "$lib/shelf.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import Sheet from "$lib/ui/Sheet.svelte";
  import { words } from "$lib/units/format";
  import CurveBox from "./CurveBox.svelte";
  import FigureRow from "./FigureRow.svelte";
  import BlockSection from "./solid/BlockSection.svelte";
  import BodyPanel from "./solid/BodyPanel.svelte";
  import LawNote from "./solid/LawNote.svelte";
  import PipePanel from "./solid/PipePanel.svelte";
  import RouteHops from "./solid/RouteHops.svelte";
  import SolidChoices from "./solid/SolidChoices.svelte";

  /** The side sheet of whatever an address belongs to: a part, a place, the part of a hop, a loop, a zone. */
  let { build, address }: { build: BuildState; address: string } = $props();
  void classes.load();
  const FLAGGED = { loaded: ["filter", "strainer"], joined: ["coupling"] };
  const LOWEST: Record<string, number> = { lift_mm: -2000, air_c: -60, at_c: -60 };

  const ownerId = $derived(resolve(build.document, address));
  const owner = $derived(build.document ? (ownerOf(build.document, ownerId) as Part | undefined) : undefined);
  const kind = $derived(owner?.kind ?? (owner && "temperature_kind" in owner ? "place" : "other"));
  const known = $derived(classes.byId(owner?.class));
  const choices = $derived(classes.of(kind));
  const figures = $derived.by(() => {
    const own = Object.entries(owner ?? {}).filter(([key, value]) => isFigure(key, value)) as [string, Figure][];
    const given = new Set(own.map(([key]) => key));
    const assumed = { ...materials.figuresOf(kind, owner), ...known?.figures };
    const rest = Object.entries(assumed).filter(([key]) => !given.has(key));
    return [
      ...own.map(([field, figure]) => ({ field, figure, byClass: undefined })),
      ...rest.map(([field, pair]) => ({ field, figure: undefined, byClass: pair as number[] })),
    ];
  });
  const result = $derived(build.result?.loops.flatMap((l) => l.elements).find((e) => e.address === ownerId));
  const body = $derived(build.result?.bodies.find((b) => b.address === ownerId));
  const pipe = $derived(build.result?.pipes.find((p) => p.address === ownerId));
  const hop = $derived(build.result?.places.flatMap((p) => p.hops).find((h) => h.address === address));
  const command = $derived(build.workload?.movers?.[ownerId]);

  function isFigure(key: string, value: unknown): boolean {
    if (["altitude_m", "section_mm", "thickness_mm", "count", "sections", "bends"].includes(key)) return true;
    return (
      /_(mm2k_w|w_mk|k_w|w_k|j_k|mm2|cm2|mm|um|mpa|kpa|pa|m3_h|rpm|dba|ml|w|a|c|l|m|l_min)$|factor|share|loss|efficiency|emissivity|slope|coverage|duty|^dust$|^uneven$/.test(
        key,
      ) &&
      (typeof value === "number" || (typeof value === "object" && value !== null && "value" in value))
    );
  }

  function resolve(document: BuildDocument | null, target: string): string {
    const head = target.split("/")[0] ?? "";
    if (!document) return head;
    for (const route of document.routes) {
      const found = route.hops.find((h) => h.id === head);
      if (found) return found.part ?? found.parts?.[0] ?? (found.zone && !target.includes("/") ? route.place : head);
    }
    return head;
  }

  /** Change what this sheet is about, as one named step that can be undone. */
  function change(what: string, make: (target: Record<string, unknown>, draft: BuildDocument) => void) {
    const id = ownerId;
    build.edit(`${owner?.name || id}: ${what}`, (draft) => {
      const target = ownerOf(draft, id);
      if (target) make(target, draft);
    });
  }

  function set(field: string, figure: Figure | undefined, value: number) {
    const whole = ["count", "bends", "sections"].includes(field);
    change(words(field), (target) => (target[field] = withValue(figure, whole ? Math.round(value) : value)));
  }

  const sort = $derived(
    kind !== "other" ? kind : build.document?.loops.some((l) => l.id === ownerId) ? "loop" : "other",
  );
  const optional = $derived(
    Object.entries(OPTIONAL[sort] ?? {}).filter(([field]) => !figures.some((row) => row.field === field && row.figure)),
  );
  const coolants = $derived(shelf.items.filter((item) => item.kind === "coolant"));
  const mixture = $derived(JSON.stringify((owner as { coolant?: unknown } | undefined)?.coolant ?? {}));
  const feeds = $derived(build.document?.feeds ?? []);
  const position = $derived(owner?.outline?.position_mm ?? []);
  $effect(() => {
    if (sort === "loop") void shelf.load();
  });

  function setCoolant(id: string) {
    const item = coolants.find((c) => c.id === id);
    if (item) change("coolant", (target) => (target["coolant"] = item.part["mixture"]));
  }

  function setFeed(id: string) {
    change("fed by", (target, draft) => {
      const feed = id === "new" ? addHeader(draft) : id;
      if (feed) target["feed"] = feed;
      else delete target["feed"];
    });
  }

  function setPosition(axis: number, value: number) {
    change("where it stands", (target) => {
      const outline = (target["outline"] ?? { size_mm: [1, 1, 1] }) as { position_mm?: number[] };
      const next = [0, 1, 2].map((i) => (i === axis ? value : (outline.position_mm?.[i] ?? 0)));
      target["outline"] = { ...outline, position_mm: next };
    });
  }

  const flags = $derived(
    (Object.keys(FLAGGED) as (keyof typeof FLAGGED)[]).filter((flag) => owner && FLAGGED[flag].includes(kind)),
  );
  let said = $state("");

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

  function tell(what: string, told: { off: true } | { duty: number }) {
    const id = ownerId;
    build.edit(`${owner?.name || id}: ${what}`, (draft) => {
      const workload = draft.workloads.find((w) => w.id === build.workloadId);
      if (workload) workload.movers = { ...workload.movers, [id]: told };
    });
  }
</script>

<Sheet label="Side sheet" title={owner?.name || ownerId} close={() => (build.sheet = null)}>
  {#if !owner}
    <p class="soft">This belongs to no single part.</p>
  {:else}
    {#if body}<BodyPanel {build} {body} />{/if}
    {#if pipe}<PipePanel {build} {pipe} />{/if}
    {#if kind === "spreader"}<BlockSection part={owner} />{/if}
    {#if hop?.law}<LawNote {hop} material={kind === "interface" ? known : undefined} />{/if}
    {#if choices.length}
      <label class="mb-2 grid gap-1">
        <span class="soft">Class</span>
        <select
          class="field"
          value={owner.class ?? ""}
          disabled={!build.editable}
          onchange={(e) => change("class", (target) => (target["class"] = e.currentTarget.value))}
        >
          {#if !owner.class}<option value="">none</option>{/if}
          {#each choices as choice (choice.id)}<option value={choice.id}>{choice.name}</option>{/each}
        </select>
      </label>
    {/if}
    {#each flags as flag, i (i)}
      <label class="mb-1 flex items-center gap-2"
        ><input
          type="checkbox"
          checked={Boolean(fieldOf(owner, flag) ?? flag === "joined")}
          disabled={!build.editable}
          onchange={(e) => change(flag, (target) => (target[flag] = e.currentTarget.checked))}
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
          onchange={(e) => (e.currentTarget.checked ? tell("off", { off: true }) : tell("on", { duty: 0.6 }))}
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
        onchange={(value) => tell("duty", { duty: value / 100 })}
      />
    {/if}
    <SolidChoices {build} {owner} {kind} {change} />
    {#each figures as { field, figure, byClass } (field)}
      <FigureRow
        {field}
        {figure}
        {byClass}
        low={LOWEST[field] ?? 0}
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
          value={owner.feed ?? ""}
          disabled={!build.editable}
          onchange={(e) => setFeed(e.currentTarget.value)}
        >
          <option value="">nothing stated</option>
          {#each feeds as feed (feed.id)}<option value={feed.id}>{feed.name || feed.id}</option>{/each}
          <option value="new">a new header (1 A)</option>
        </select>
      </label>
    {/if}
    {#if owner.kind && !["interface", "source", "spreader", "heat_pipe", "sink", "panel"].includes(kind)}
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
    {#if owner.kind}
      <p class="mt-2 flex flex-wrap gap-x-4 gap-y-1">
        {#each [["price", "Price", ""], ["mass_g", "Mass", "g"]] as [field, label, unit] (field)}
          <NumberField
            label={label!}
            unit={unit!}
            value={valueOf(figureOf(owner, field!))}
            low={0}
            high={1e6}
            width={72}
            disabled={!build.editable}
            onchange={(value) => change(label!.toLowerCase(), (target) => (target[field!] = value))}
          />
        {/each}
      </p>
    {/if}
    {#if (kind === "fan" || kind === "pump") && owner.kind}<CurveBox {build} part={ownerId} {kind} />{/if}
    {#if owner.kind && kind !== "source" && kind !== "supply"}
      <div class="mt-3 flex flex-wrap gap-2">
        <button class="button" onclick={keep}>Put on the shelf</button>
        <button class="button" onclick={takeOut} disabled={!build.editable}>Take out of the build</button>
      </div>
      <p class="soft text-sm" role="status">{said}</p>
    {/if}
    {#if kind === "place"}<RouteHops {build} place={ownerId} />{/if}
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
</Sheet>
