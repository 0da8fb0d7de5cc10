<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Marks } from "$lib/state/marks.svelte";
  import type { StepPictures } from "$lib/state/step-pictures.svelte";
  import StepCautions from "./StepCautions.svelte";
  import Pictures from "./StepPictures.svelte";
  import { spell, tookSince, waitsFor, type Sheet, type Step } from "./sheet";

  /** The step at hand: why now, what to mind, done or did not work; what hides it later. */
  let {
    build,
    sheet,
    step,
    marks,
    pictures,
    next,
    helped,
  }: {
    build: BuildState;
    sheet: Sheet;
    step: Step;
    marks: Marks;
    pictures: StepPictures;
    next: () => void;
    helped: () => void;
  } = $props();
  const steps = $derived(sheet.order.steps);
  const waits = $derived(waitsFor(step, steps, marks.standing));
  const nameOf = (id: string) => steps.find((one) => one.id === id)?.name ?? id;
  const numberOf = (id: string) => steps.find((one) => one.id === id)?.number;
  const cautions = $derived(sheet.cautions.filter((one) => one.steps.includes(step.id)));
  const leads = $derived(sheet.leads.filter((lead) => step.items.includes(lead.lead)));
  const timer = $derived(marks.timers.find((one) => one.about === step.id));
  const mark = $derived(marks.standing.get(step.id));
  const hiddenBy = $derived(sheet.order.threads.find((thread) => thread.thing === step.id)?.hidden_by);
  const last = $derived(
    marks.all.filter((one) => one.kind === "done").reduce((at, one) => Math.max(at, Date.parse(one.at)), 0) || null,
  );
  let why = $state("");
  let failing = $state(false);
  let minutes = $state<number | undefined>(undefined);
  const guess = $derived(tookSince(last, Date.now() + marks.ahead));

  function done() {
    marks.add(step.id, "done", { minutes: minutes ?? guess ?? step.minutes });
    minutes = undefined;
    next();
  }

  function failed(event: SubmitEvent) {
    event.preventDefault();
    marks.add(step.id, "failed", { word: why.trim() });
    why = "";
    failing = false;
  }
  const because = $derived(step.because.filter((one: Schemas["WhyFirst"]) => one.why).slice(0, 3));
</script>

<section class="card" class:failed={mark?.kind === "failed"} aria-label="Step at hand" data-testid="step-card">
  <header>
    <h2>
      {#if step.number !== null}<span class="num">{step.number}</span>{/if}
      {step.name}
    </h2>
    <span class="num soft" title="minutes planned">{spell(step.minutes)}</span>
  </header>
  {#if because.length}
    <p>
      <strong>Because</strong>
      {#each because as one, i (one.step)}{i ? "; " : ""}{one.why}
        <span class="soft"
          >(after {numberOf(one.step) ? `step ${numberOf(one.step)}` : nameOf(one.step).toLowerCase()})</span
        >{/each}.
    </p>
  {/if}
  {#if step.note}<p>{step.note}</p>{/if}
  {#if step.gate && step.before}<p class="soft">
      Latest before step {numberOf(step.before) ?? ""}: {nameOf(step.before).toLowerCase()}.
    </p>{/if}
  {#if step.tool || step.torque_nm}
    <p class="soft">
      {step.tool}{#if step.torque_nm}{step.tool ? ", " : ""}<span class="num">{step.torque_nm} N·m</span
        >{/if}{#if step.side}, from the {step.side}{/if}
    </p>
  {/if}
  {#each leads as lead (lead.lead)}
    <p class="lead">
      {lead.name}: {lead.from_name} → {lead.to_name}{#if lead.order_mm}, <span class="num">{lead.order_mm} mm</span
        >{/if}{#if lead.bend}
        <span class="soft">, bent {lead.bend === "before" ? "before it goes in" : "in place"}</span>{/if}
    </p>
  {/each}
  <StepCautions {build} {marks} {cautions} />
  {#if mark?.kind === "failed"}
    <p class="fault">✕ Did not work{mark.word ? `: ${mark.word}` : ""}</p>
  {/if}
  {#if waits.length && mark?.kind !== "done"}
    <p class="warn">▲ Waits for {waits.map((one) => one.name.toLowerCase()).join(", ")}.</p>
  {/if}
  {#if hiddenBy}<p class="soft">
      Hidden later by step {numberOf(hiddenBy) ?? nameOf(hiddenBy)}: take a picture now.
    </p>{/if}
  <Pictures {pictures} about={step.id} name={step.name} editable={build.editable} />
  {#if build.editable}
    <div class="acts">
      {#if mark?.kind === "done"}
        <button class="button" onclick={() => marks.add(step.id, "undone")}>Not done after all</button>
      {:else}
        {#if step.watch_h && !timer}
          <button
            class="button"
            onclick={() => marks.add(step.id, "timer", { minutes: step.watch_h! * 60, word: step.name })}
            >Start the watch, {step.watch_h} h</button
          >
        {/if}
        <button class="button main done" onclick={done}>{step.gate ? "Seen to work" : "Done"}</button>
        <button class="button" aria-expanded={failing} onclick={() => (failing = !failing)}>Did not work</button>
        <label class="soft took"
          >took <input
            class="field num"
            type="number"
            min="0"
            max="10000"
            inputmode="numeric"
            placeholder={`${guess ?? Math.round(step.minutes)}`}
            bind:value={minutes}
          /> min</label
        >
      {/if}
      {#if mark?.kind === "failed"}<button class="link" onclick={helped}>It does not start</button>{/if}
    </div>
    {#if failing}
      <form class="acts" onsubmit={failed}>
        <input
          class="field grow"
          aria-label="Why it did not work"
          placeholder="one word of why"
          maxlength="200"
          bind:value={why}
        />
        <button class="button main">Keep it as failed</button>
      </form>
    {/if}
  {/if}
</section>

<style>
  .card {
    background: var(--panel);
    border: 1px solid var(--line);
    border-left: 5px solid var(--accent);
    border-radius: 10px;
    padding: 10px 14px;
    margin: 4px 0;
    display: grid;
    gap: 5px;
  }
  .card.failed {
    border-left-color: var(--too-hot);
  }
  header {
    display: flex;
    gap: 10px;
    justify-content: space-between;
    align-items: baseline;
  }
  h2 .num {
    color: var(--soft);
    padding-right: 4px;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
    margin-top: 4px;
  }
  .took input {
    width: 62px;
    padding: 2px 6px;
  }
  .warn {
    color: var(--tight);
    font-weight: 600;
  }
  .lead {
    border-left: 3px solid var(--line);
    padding-left: 8px;
  }
  @media (max-width: 699px) {
    .acts .button {
      min-height: 46px;
    }
    .acts .done {
      order: -1;
      flex: 1 0 100%;
      min-height: 58px;
      font-size: 19px;
    }
  }
</style>
