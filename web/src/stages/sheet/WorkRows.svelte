<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Marks } from "$lib/state/marks.svelte";
  import type { StepPictures } from "$lib/state/step-pictures.svelte";
  import { clock, day } from "$lib/units/format";
  import StepCard from "./StepCard.svelte";
  import Threads from "./Threads.svelte";
  import { drawn, isTooLate, spell, stateOf, waitsFor, type Sheet, type Step } from "./sheet";

  /** Steps and gates in the order of the work, with the threads of what must be reached or seen beside them. */
  let {
    build,
    sheet,
    marks,
    pictures,
    current,
    chosen = $bindable(),
    now,
    select,
    next,
    helped,
    apart = false,
  }: {
    build: BuildState;
    sheet: Sheet;
    marks: Marks;
    pictures: StepPictures;
    current: Step | null;
    chosen: string | null;
    now: number;
    select: (id: string) => void;
    next: () => void;
    helped: () => void;
    /** the step at hand stands above the list, not in it */
    apart?: boolean;
  } = $props();
  const steps = $derived(sheet.order.steps);
  const threads = $derived(drawn(sheet.order.threads, sheet.order.steps));
  const numberOf = (id: string | null) => steps.find((one) => one.id === id)?.number ?? null;
  const timerOf = (id: string) => marks.timers.find((one) => one.about === id);
  const failedBefore = (id: string) => {
    const mark = marks.all.filter((one) => one.about === id && one.kind === "failed").at(-1);
    return mark ? `✕ ${day(mark.at)} ${clock(mark.at)}${mark.word ? `, ${mark.word}` : ""}` : "";
  };
  const tick = (step: Step) =>
    marks.add(step.id, marks.isDone(step.id) ? "undone" : "done", { minutes: step.minutes || undefined });
</script>

{#if apart && current}<StepCard {build} {sheet} step={current} {marks} {pictures} {next} {helped} />{/if}
<div class="rows" role="list" aria-label="Steps">
  <div class="row head soft">
    <span></span><span>Step</span><span class="tool">tools</span><span class="num">min</span>
    <span class="key"><span class="ring"></span> in reach <span class="square"></span> hidden here</span>
  </div>
  {#each steps as step (step.id)}
    {@const is = stateOf(step, steps, marks.standing, current)}
    {@const timer = timerOf(step.id)}
    <div role="listitem">
      <div class="row {is}" class:gate={step.gate} class:at={current === step} data-step={step.id} data-state={is}>
        <button
          class="check"
          role="checkbox"
          aria-checked={is === "done"}
          aria-label={step.name}
          disabled={!build.editable}
          onclick={() => tick(step)}
          >{is === "done" ? "✓" : is === "failed" ? "✕" : timer ? "◔" : step.gate ? "○" : ""}</button
        >
        <button class="name" onclick={() => select(step.id)} aria-current={current === step ? "step" : undefined}>
          {#if step.number !== null}<span class="num soft">{step.number}</span>{/if}
          <span class="words" title={step.name}>{step.name}</span>
          {#if step.gate && is === "done" && failedBefore(step.id)}<span class="past">{failedBefore(step.id)}</span
            >{/if}
        </button>
        <span class="tool soft" title={step.tool}
          >{#if step.gate && step.before}before {numberOf(
              step.before,
            )}{:else if is === "waits" && step.number === (numberOf(current?.id ?? null) ?? 0) + 1}waits:
            {waitsFor(step, steps, marks.standing).at(0)?.name.toLowerCase() ?? ""}{:else}{step.tool}{/if}</span
        >
        <span class="num min"
          >{#if timer}{spell(Math.max(0, (timer.rings - now) / 60_000))} left{:else}{marks.standing.get(step.id)
              ?.minutes
              ? `${Math.round(marks.standing.get(step.id)!.minutes!)} / `
              : ""}{Math.round(step.minutes)}{/if}</span
        >
        <Threads
          {step}
          {steps}
          {threads}
          {chosen}
          passed={is === "done"}
          choose={(thing) => (chosen = chosen === thing ? null : thing)}
        />
      </div>
      {#if isTooLate(step, threads, steps)}
        <p class="fault">
          What {step.name.toLowerCase()} looks at is hidden by then: move it up, or drop the rule that holds it.
        </p>
      {/if}
      {#if current === step && !apart}<StepCard {build} {sheet} {step} {marks} {pictures} {next} {helped} />{/if}
    </div>
  {/each}
</div>

<style>
  .rows {
    display: grid;
    min-width: 0;
  }
  .row {
    display: grid;
    grid-template-columns: 30px minmax(160px, 1fr) minmax(50px, 92px) 70px auto;
    align-items: center;
    min-height: 27px;
    border-bottom: 1px solid var(--line);
    gap: 4px;
  }
  .head {
    font-size: 12.5px;
    border-bottom-width: 2px;
  }
  .key {
    white-space: nowrap;
    padding-left: 2px;
  }
  .ring,
  .square {
    display: inline-block;
    width: 9px;
    height: 9px;
    border: 2px solid var(--ink);
    border-radius: 50%;
    vertical-align: -1px;
  }
  .square {
    background: var(--ink);
    border-radius: 0;
    margin-left: 8px;
  }
  .check {
    width: 20px;
    height: 20px;
    margin-left: 5px;
    border: 1.5px solid var(--soft);
    border-radius: 4px;
    font-size: 13px;
    line-height: 1;
    font-weight: 700;
    cursor: pointer;
  }
  .gate .check {
    border-radius: 50%;
  }
  .done .check {
    background: color-mix(in srgb, var(--holds) 18%, transparent);
    border-color: var(--holds);
    color: var(--holds);
  }
  .failed .check {
    border-color: var(--too-hot);
    color: var(--too-hot);
  }
  .name {
    display: flex;
    gap: 8px;
    text-align: left;
    cursor: pointer;
    min-width: 0;
    align-items: baseline;
  }
  .name .num {
    width: 2ch;
    text-align: right;
    flex: none;
  }
  .words {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .gate {
    background: var(--sunk);
    border-radius: 6px;
    border-bottom-color: transparent;
  }
  .gate .words {
    font-weight: 700;
  }
  .gate.done {
    background: color-mix(in srgb, var(--holds) 14%, var(--ground));
  }
  .gate.failed {
    background: color-mix(in srgb, var(--too-hot) 14%, var(--ground));
  }
  .at .words {
    font-weight: 700;
    color: var(--accent-text);
  }
  .past {
    color: var(--tight);
    font-size: 12.5px;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .tool {
    font-size: 12.5px;
    text-align: right;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .min {
    text-align: right;
    font-size: 13px;
    white-space: nowrap;
    padding-right: 8px;
  }
  .waits .words {
    color: var(--soft);
  }
  @media (max-width: 1000px) {
    .row {
      grid-template-columns: 40px minmax(0, 1fr) 0 76px 0;
    }
    .row :global(.threads),
    .tool,
    .key {
      display: none;
    }
  }
  @media (max-width: 699px) {
    .row {
      min-height: 46px;
    }
    .check {
      width: 32px;
      height: 32px;
    }
    .words {
      white-space: normal;
    }
  }
</style>
