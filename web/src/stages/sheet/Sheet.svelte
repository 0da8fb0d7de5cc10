<script lang="ts">
  import { MediaQuery } from "svelte/reactivity";
  import { client } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import { Marks, read, write } from "$lib/state/marks.svelte";
  import { StepPictures } from "$lib/state/step-pictures.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import CarePanel from "./CarePanel.svelte";
  import DoesNotStart from "./DoesNotStart.svelte";
  import FillPanel from "./FillPanel.svelte";
  import LeadsList from "./LeadsList.svelte";
  import OrderPanel from "./OrderPanel.svelte";
  import PartsPanel from "./PartsPanel.svelte";
  import WorkRows from "./WorkRows.svelte";
  import { ring } from "./ring";
  import { currentStep, spell, type Sheet } from "./sheet";

  /** The build sheet: an order that works, gates before it is too late, parts, leads, fill and care; ticked by one hand. */
  let { build }: { build: BuildState } = $props();
  const asked = new Asked<Sheet>();
  const marks = new Marks();
  const EVERY_MS = 1000;
  const copy = $derived(`sheet:${build.id}`);
  /** the sheet as it was last worked out: it stays in view where nothing answers */
  let sheet = $derived(read<Sheet>(copy));
  const phone = new MediaQuery("max-width: 699px");
  const TABS = ["steps", "parts", "leads", "fill", "care"] as const;
  let tab = $state<(typeof TABS)[number]>("steps");
  let selected = $state<string | null>(null);
  let thread = $state<string | null>(null);
  let helping = $state(false);
  let now = $state(Date.now());
  const clock = $derived(now + marks.ahead);

  $effect(() => {
    const document = build.document;
    if (!document) return;
    const body = { document };
    return asked.ask((as) => client.POST("/api/sheet", { ...as, body }), 150);
  });
  $effect(() => {
    if (!asked.answer) return;
    sheet = asked.answer;
    write(copy, asked.answer);
  });
  $effect(() => marks.open(build.id));
  const pictures = new StepPictures();
  $effect(() => void pictures.open(build.id));
  $effect(() => {
    const timer = setInterval(() => (now = Date.now()), EVERY_MS);
    return () => clearInterval(timer);
  });

  /** timers that ring once each, also those that ended while the page was closed */
  let rung = $state.raw(new Set<string>());
  $effect(() => {
    for (const timer of marks.timers) {
      const key = `${timer.about}${timer.rings}`;
      if (timer.rings <= clock && !rung.has(key)) {
        rung = new Set([...rung, key]);
        ring(timer.word || timer.about);
      }
    }
  });

  const steps = $derived(sheet?.order.steps ?? []);
  const current = $derived(steps.find((step) => step.id === selected) ?? currentStep(steps, marks.standing));
  const chosen = $derived(sheet?.order.threads.find((one) => one.thing === thread) ?? null);
  const nameOf = (id: string) => steps.find((step) => step.id === id)?.name ?? id;
  const nextGate = $derived(steps.find((step) => step.gate && !marks.isDone(step.id)));
  const gateTimer = $derived(marks.timers.find((one) => one.about === nextGate?.id));

  function onkeydown(event: KeyboardEvent) {
    const target = event.target as HTMLElement;
    if (/^(INPUT|TEXTAREA|SELECT|BUTTON)$/.test(target.tagName) && event.key !== "ArrowDown" && event.key !== "ArrowUp")
      return;
    if (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || event.ctrlKey || event.metaKey || event.altKey) return;
    const at = current ? steps.indexOf(current) : -1;
    if (event.key === "ArrowDown" || event.key === "ArrowUp")
      selected = steps[Math.min(Math.max(at + (event.key === "ArrowDown" ? 1 : -1), 0), steps.length - 1)]?.id ?? null;
    else if (localStorage.getItem("single-keys") === "0") return;
    else if (event.key === " " && current && build.editable)
      marks.add(current.id, "done", { minutes: current.minutes });
    else if (event.key === "u" && current && build.editable) marks.add(current.id, "undone");
    else if (event.key === "g") selected = nextGate?.id ?? null;
    else return;
    if (event.key === " ") selected = null;
    event.preventDefault();
  }
</script>

<svelte:window {onkeydown} />

<div class="top">
  <h1>Build sheet</h1>
  {#if sheet}<p class="soft">
      <span class="num">{steps.filter((step) => !step.gate).length}</span> steps,
      <span class="num">{steps.filter((step) => step.gate).length}</span> gates,
      <span class="num">{sheet.order.changes}</span> changes of tool or side
    </p>{/if}
  <span class="grow"></span>
  {#if marks.waiting.length}<span class="warn" role="status"
      >{marks.waiting.length} ticked here, {marks.offline ? "sent when there is a network" : "being sent"}</span
    >{:else if marks.offline}<span class="warn" role="status">no network: ticks are kept here</span>{/if}
  <button class="button" aria-pressed={helping} onclick={() => (helping = !helping)}>It does not start</button>
  <a class="button" href="#/build/{build.id}/sheet-print">Print</a>
</div>
<Faults faults={[...(marks.offline ? [] : asked.faults), ...marks.faults]} alert />
{#if !sheet}
  <p class="soft mt-3">Working the order out …</p>
{:else if !steps.length}
  <p class="soft mt-3">Nothing goes in yet: add parts in Route or Air, and their order follows.</p>
{:else}
  {#if phone.current}
    <div class="tabs" role="tablist">
      {#each TABS as one (one)}
        <button role="tab" aria-selected={tab === one} class:on={tab === one} onclick={() => (tab = one)}>{one}</button>
      {/each}
    </div>
    {#if nextGate && tab === "steps"}
      <p class="pinned" class:failed={marks.standing.get(nextGate.id)?.kind === "failed"}>
        <span>{marks.standing.get(nextGate.id)?.kind === "failed" ? "✕" : "○"} next gate: <b>{nextGate.name}</b></span>
        {#if gateTimer}<span class="num">{spell(Math.max(0, (gateTimer.rings - clock) / 60_000))} left</span>{/if}
      </p>
    {/if}
  {/if}
  <div class="page">
    {#if !phone.current || tab === "steps"}
      <div class="work">
        {#if helping}<DoesNotStart {build} {marks} close={() => (helping = false)} />{/if}
        <WorkRows
          {build}
          {sheet}
          {marks}
          {pictures}
          {current}
          bind:chosen={thread}
          now={clock}
          select={(id) => (selected = id)}
          next={() => (selected = null)}
          helped={() => (helping = true)}
          apart={phone.current}
        />
        {#if chosen}
          <p class="undo" data-testid="undoing">
            <b>{chosen.name}</b> is hidden by {nameOf(chosen.hidden_by).toLowerCase()}: {chosen.why}. To reach it again:
            {chosen.undo.steps.map((id) => nameOf(id).toLowerCase()).join(", ") || "nothing"}
            {chosen.undo.whole ? "(the loop in one piece, not opened)" : ""}
            <b class="num">{spell(chosen.undo.minutes)}</b> out and in again.
          </p>
        {/if}
        <OrderPanel {build} {sheet} step={current} />
      </div>
    {/if}
    <div class="side">
      {#if !phone.current || tab === "parts"}<PartsPanel {build} {sheet} {marks} open={phone.current} />{/if}
      {#if !phone.current || tab === "leads"}<LeadsList {sheet} {current} />{/if}
      {#if !phone.current || tab === "fill"}<FillPanel {build} {sheet} {marks} now={clock} />{/if}
      {#if !phone.current || tab === "care"}<CarePanel {build} {sheet} {marks} now={clock} />{/if}
      <p class="acts">
        <a class="button" href={`/api/builds/${build.id}/sheet.csv?table=parts`} download="parts.csv">Parts as CSV</a>
        <a class="button" href={`/api/builds/${build.id}/sheet.csv?table=leads`} download="leads.csv">Leads as CSV</a>
      </p>
      <p class="soft text-sm">{sheet.certifies}</p>
    </div>
  </div>
{/if}

<style>
  .top {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
    align-items: baseline;
  }
  .grow {
    flex: 1;
  }
  .page {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 300px;
    gap: 18px;
    margin-top: 6px;
    align-items: start;
  }
  .work {
    min-width: 0;
  }
  .side {
    display: grid;
    gap: 14px;
    background: var(--panel);
    border: 1px solid var(--line);
    border-radius: 10px;
    padding: 12px 14px;
  }
  .side > :global(section + section) {
    border-top: 1px solid var(--line);
    padding-top: 10px;
  }
  .undo {
    margin-top: 8px;
    padding: 6px 10px;
    border-left: 4px solid var(--accent);
    background: var(--panel);
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
  .warn {
    color: var(--tight);
    font-weight: 600;
  }
  .tabs {
    display: flex;
    gap: 4px;
    margin-top: 6px;
  }
  .tabs button {
    flex: 1;
    min-height: 44px;
    border-bottom: 3px solid transparent;
    cursor: pointer;
  }
  .tabs .on {
    border-bottom-color: var(--accent);
    font-weight: 700;
  }
  .pinned {
    position: sticky;
    top: -12px;
    z-index: 5;
    display: flex;
    justify-content: space-between;
    gap: 8px;
    background: var(--panel);
    border: 1px solid var(--line);
    border-radius: 8px;
    padding: 6px 10px;
    margin-top: 6px;
  }
  .pinned.failed {
    border-color: var(--too-hot);
    color: var(--too-hot);
  }
  @media (max-width: 1000px) {
    .page {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
