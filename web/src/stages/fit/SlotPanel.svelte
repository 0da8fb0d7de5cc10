<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import { classes } from "$lib/state/classes.svelte";
  import { shelf } from "$lib/state/shelf.svelte";
  import type { Slot } from "$lib/document/build";
  import Faults from "$lib/ui/Faults.svelte";
  import StatusMark from "$lib/ui/StatusMark.svelte";
  import { fixed } from "$lib/units/format";
  import GapCurve from "./GapCurve.svelte";
  import SlotEditor from "./SlotEditor.svelte";
  import SlotRuler from "./SlotRuler.svelte";
  import { waysOut } from "./ways";
  import { asides, headOf, sentenceOf, STATUS, toneOf, type StackFit } from "./words";

  /** One slot: the figure that decides, both lanes on the ruler, what the gap costs, its figures and the ways out. */
  let {
    build,
    slot,
    fit,
    onremoved,
  }: { build: BuildState; slot: Slot; fit: StackFit | undefined; onremoved: () => void } = $props();
  void classes.load();
  void shelf.load();
  const trial = new Asked<Schemas["Fit"]>();
  const costs = new Asked<Schemas["GapCost"][]>();
  const tried = $derived(
    build.trial.document ? (trial.answer?.slots.find((one) => one.slot === slot.id) ?? null) : null,
  );
  const cost = $derived(costs.answer?.find((one) => one.slot === slot.id));
  const breathes = $derived(build.document?.parts.some((part) => part.kind === "gap" && part.slot === slot.id));
  const ways = $derived(
    fit && build.document && toneOf(fit.says) !== "good"
      ? waysOut(build.document, slot, fit, classes.all, shelf.items)
      : [],
  );
  const endsAt = $derived(
    slot.ends_at ||
      { closed: "closed", perforated: "holes", mesh: "mesh", open: "free", part: "next part" }[slot.ends ?? "part"],
  );

  $effect(() => {
    const document = build.trial.document;
    if (document) return trial.ask((as) => client.POST("/api/fit", { ...as, body: { document } }), 0);
  });
  $effect(() => {
    const document = build.document;
    const body = { workload: build.workloadId, room_c: build.roomC };
    if (document && breathes)
      return costs.ask((as) => client.POST("/api/gap-costs", { ...as, body: { document, ...body } }));
  });
</script>

{#if fit}
  {@const tone = toneOf(fit.says)}
  <div class="heads">
    {#each [{ of: fit, preview: false }, ...(tried ? [{ of: tried, preview: true }] : [])] as one (one.preview)}
      {@const t = toneOf(one.of.says)}
      <div class="head" data-testid={one.preview ? "slot-trial" : "slot-says"}>
        <span class="num figure {t}">{fixed(one.of.left_mm)}</span>
        <span class="soft band">mm<br />± {fixed(one.of.half_mm)}</span>
        <p>
          <strong class={t}><StatusMark status={STATUS[t]} size={16} /> {headOf(one.of)}</strong>
          {#if one.preview}<span class="preview">trial</span>{/if}<br />
          <span>{sentenceOf(one.of)}</span>
        </p>
      </div>
    {/each}
  </div>
  <div class="drawing">
    <div class="grow"><SlotRuler {fit} trial={tried} {endsAt} /></div>
    {#if cost}<GapCurve {cost} />
    {:else if breathes && !costs.faults.length}<p class="soft">Solving the gap …</p>{/if}
  </div>
  <Faults faults={costs.faults} />
  {#if asides(fit).length || fit.to_measure.length}
    <p class="asides">
      {#each asides(fit) as aside, i (i)}
        <span class={aside.tone}><StatusMark status={STATUS[aside.tone]} size={13} /> {aside.text}</span>
      {/each}
      {#if fit.to_measure.length}
        <span class="soft">Measure before you cut: {fit.to_measure.join(", ")}.</span>
      {/if}
    </p>
  {/if}
  {#if ways.length && build.editable}
    <div class="ways" role="group" aria-label="Ways out">
      <span class="soft">{tone === "bad" ? "Ways out" : "Thinner"}</span>
      {#each ways as way, i (i)}
        <button class="button" onclick={() => void build.trial.propose(way.label, way.change)}
          >{way.label} <span class="num soft">{fixed(way.leftMm)} mm left</span></button
        >
      {/each}
    </div>
  {/if}
{/if}
<SlotEditor {build} {slot} {fit} {onremoved} />

<style>
  .heads {
    display: flex;
    flex-wrap: wrap;
    gap: 8px 34px;
  }
  .head {
    display: flex;
    align-items: center;
    gap: 10px;
  }
  .figure {
    font-size: 40px;
    font-weight: 700;
    line-height: 1;
  }
  .band {
    font-size: 13px;
    line-height: 1.25;
  }
  .good {
    color: var(--holds);
  }
  .warn {
    color: var(--tight);
  }
  .bad {
    color: var(--too-hot);
  }
  .plain {
    color: var(--soft);
  }
  .preview {
    color: var(--accent-text);
    font-weight: 650;
    margin-left: 6px;
  }
  .drawing {
    display: flex;
    gap: 18px;
    align-items: flex-start;
    margin-top: 4px;
  }
  .grow {
    flex: 1;
    min-width: 0;
  }
  .asides {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 18px;
    font-size: 14px;
    margin: 4px 0;
  }
  .ways {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 6px 8px;
    margin: 6px 0 8px;
    font-size: 14px;
  }
  @media (max-width: 760px) {
    .drawing {
      flex-direction: column;
      align-items: stretch;
    }
  }
</style>
