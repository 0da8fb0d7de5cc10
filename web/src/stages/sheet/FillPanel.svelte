<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Marks } from "$lib/state/marks.svelte";
  import { clock, day, fixed, sentenceCase } from "$lib/units/format";
  import TimerFace from "./TimerFace.svelte";
  import { spell, type Sheet } from "./sheet";

  /** How each loop is filled: how much, where, in which order, with timers that run on the server's clock. */
  let { build, sheet, marks, now }: { build: BuildState; sheet: Sheet; marks: Marks; now: number } = $props();
  const nameOf = (id: string | null) => build.document?.parts.find((part) => part.id === id)?.name ?? id;
  const sealed = $derived(build.document?.loops.filter((loop) => loop.sealed) ?? []);
  const seal = (id: string, told: boolean) =>
    build.edit(told ? "bought filled and sealed" : "a loop that is filled", (draft) => {
      const loop = draft.loops.find((one) => one.id === id);
      if (loop) loop.sealed = told;
    });
  const timerOf = (id: string) => marks.timers.find((timer) => timer.about === id);
</script>

{#each sealed as loop (loop.id)}
  <section aria-label="{loop.name || loop.id}, sealed">
    <p>
      <strong>{loop.name || loop.id}</strong> was bought filled and sealed: nothing to fill, cut or bleed.
      {#if build.editable}<button class="link" onclick={() => seal(loop.id, false)}>It is filled by hand</button>{/if}
    </p>
  </section>
{/each}
{#each sheet.fills as plan (plan.loop)}
  <section aria-label="Fill plan of {plan.name}">
    <header>
      <h2>Fill plan</h2>
      <span class="soft"
        ><b class="num">{fixed(plan.volume_ml / 1000, 2)} ± {fixed(plan.half_ml / 1000, 2)} l</b>
        {plan.coolant}</span
      >
      {#if build.editable}<button class="link text-sm" onclick={() => seal(plan.loop, true)}>bought sealed?</button
        >{/if}
    </header>
    {#if plan.stated_ml !== null && Math.abs(plan.stated_ml - plan.volume_ml) > plan.half_ml}
      <p class="soft">
        The loop says <span class="num">{fixed(plan.stated_ml / 1000, 2)} l</span>: its parts come to less or more than
        that.
      </p>
    {/if}
    <p class="soft">
      Buy <b class="num">{fixed(plan.buy_ml / 1000, 1)} l</b>, and <b class="num">{fixed(plan.rinse_ml / 1000, 1)} l</b>
      of distilled water for each rinse. {sentenceCase(plan.inhibitor)}.
    </p>
    {#if plan.air_ml !== null}
      <p class:warn={plan.cushion_well === false} class:soft={plan.cushion_well !== false}>
        {plan.cushion_well === false ? "▲ " : ""}Warm it grows by <b class="num">{fixed(plan.expands_ml, 0)} ml</b>;
        <b class="num">{fixed(plan.air_ml, 0)} ml</b> of air are left{plan.cushion_well === false
          ? ": less than a twentieth, fill it less"
          : ""}.
      </p>
    {:else}
      <p class="warn">
        ▲ No reservoir: nothing takes up the <b class="num">{fixed(plan.expands_ml, 0)} ml</b> that it grows by.
      </p>
    {/if}
    <p class="soft">
      In at {nameOf(plan.fill_at) ?? "nowhere yet"}{#if plan.drain_at}, out at {nameOf(
          plan.drain_at,
        )}{/if}{#if plan.pockets.length}; air gathers in {plan.pockets.map(nameOf).join(", then ")}{/if}.
    </p>
    {#each plan.steps as step (step.id)}
      {@const timer = timerOf(step.id)}
      {@const mark = marks.standing.get(step.id)}
      {#if timer}
        <div class="running">
          <p class="line">
            <strong>{step.name}</strong><span class="soft"
              >rings {day(new Date(timer.rings))}, {clock(new Date(timer.rings))}</span
            >
          </p>
          <TimerFace {timer} {now} looks={step.looks_h} />
          <div class="acts">
            <button class="button main" disabled={!build.editable} onclick={() => marks.add(step.id, "done")}
              >All dry, done</button
            >
            <button
              class="button"
              disabled={!build.editable}
              onclick={() => marks.add(step.id, "failed", { word: "wet paper" })}>Wet paper</button
            >
          </div>
        </div>
      {:else}
        <p class="line step" class:done={mark?.kind === "done"} class:failed={mark?.kind === "failed"}>
          <button
            class="check"
            role="checkbox"
            aria-checked={mark?.kind === "done"}
            aria-label={step.name}
            disabled={!build.editable}
            onclick={() => marks.add(step.id, mark?.kind === "done" ? "undone" : "done")}
            >{mark?.kind === "done" ? "✓" : mark?.kind === "failed" ? "✕" : "○"}</button
          >
          <span class="grow" title={step.note}
            >{step.name}{#if mark?.kind === "failed" && mark.word}: {mark.word}{/if}</span
          >
          {#if step.watch_h && mark?.kind !== "done" && build.editable}
            <button
              class="link"
              onclick={() => marks.add(step.id, "timer", { minutes: step.watch_h! * 60, word: step.name })}
              >start {step.watch_h} h</button
            >
          {:else}<span class="num soft">{spell(step.minutes)}</span>{/if}
        </p>
      {/if}
    {/each}
    {#each plan.stops as stop (stop)}<p class="warn text-sm">{stop}</p>{/each}
    <p class="soft text-sm">
      Top up after {#each plan.top_ups as one, i (one.after_days)}{i ? ", " : ""}{one.after_days} d
        <span class="num"
          >{fixed(one.low_ml, 0)}{one.high_ml > one.low_ml ? ` to ${fixed(one.high_ml, 0)}` : ""} ml</span
        >{/each}.
    </p>
  </section>
{/each}

<style>
  section {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 4px;
    font-size: 14px;
  }
  header,
  .line {
    display: flex;
    gap: 8px;
    justify-content: space-between;
    align-items: baseline;
  }
  .running {
    background: var(--sunk);
    border-radius: 8px;
    padding: 8px 10px;
    display: grid;
    gap: 4px;
  }
  .acts {
    display: flex;
    gap: 8px;
  }
  .check {
    width: 22px;
    flex: none;
    cursor: pointer;
    font-weight: 700;
  }
  .done .check {
    color: var(--holds);
  }
  .done .grow {
    color: var(--soft);
  }
  .failed .check,
  .failed .grow {
    color: var(--too-hot);
  }
  .grow {
    flex: 1;
  }
  .warn {
    color: var(--tight);
  }
  @media (max-width: 699px) {
    .step {
      min-height: 44px;
      align-items: center;
    }
    .check {
      min-width: 40px;
      min-height: 40px;
      font-size: 18px;
    }
  }
</style>
