<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { doneOf, GUIDE, storeGuide } from "$lib/guide";

  /** The guide of a first build: its six steps, the one of the stage in view or the next that is open. */
  let {
    build,
    stage,
    ticked = $bindable(),
    go,
  }: { build: BuildState; stage: string; ticked: number[] | null; go: (stage: string) => void } = $props();
  const done = $derived(
    build.document
      ? doneOf({ document: build.document, workload: build.workloadId, revision: build.revision }, ticked ?? [])
      : [],
  );
  const here = $derived(GUIDE.findIndex((step) => step.stage === stage));
  const open = $derived(done.findIndex((is) => !is));
  const at = $derived(here >= 0 ? here : open);
  const step = $derived(GUIDE[at]);
  const left = $derived(done.filter((is) => !is).length);

  function keep(next: number[] | null) {
    ticked = next;
    storeGuide(build.id, next);
  }

  /** To the next step that is not done, over the end to the first; this one counts as done. */
  function onward() {
    const now = [...new Set([...(ticked ?? []), at])];
    keep(now);
    const after = GUIDE.map((_, i) => (at + 1 + i) % GUIDE.length).find((i) => !done[i] && !now.includes(i));
    if (after !== undefined) go(GUIDE[after]!.stage);
  }
</script>

{#if step}
  <aside class="guide" aria-label="Guide">
    <ol class="steps">
      {#each GUIDE as one, i (one.stage)}
        <li>
          <button
            class="dot"
            class:on={i === at}
            class:done={done[i]}
            aria-current={i === at ? "step" : undefined}
            aria-label="Step {i + 1}, {one.title}{done[i] ? ', done' : ''}"
            onclick={() => go(one.stage)}>{done[i] ? "✓" : i + 1}</button
          >
        </li>
      {/each}
    </ol>
    <span class="grow">
      {#if left}
        <b>{step.title}.</b>
        <span class="soft">{step.text}</span>
      {:else}
        <b>That is a first build.</b>
        <span class="soft">Next: run it on the Bench and hold the run against the forecast in Verdict.</span>
      {/if}
    </span>
    {#if left}<button class="button" onclick={onward}>{done[at] ? "Next" : "Done, next"}</button>{/if}
    <button class="link" onclick={() => keep(null)}>{left ? "Leave the guide" : "Close"}</button>
  </aside>
{/if}

<style>
  .guide {
    display: flex;
    align-items: center;
    flex-wrap: wrap;
    gap: 6px 12px;
    padding: 6px 10px;
    margin-bottom: 8px;
    border-left: 4px solid var(--accent);
    background: var(--panel);
    font-size: 14px;
    line-height: 1.35;
  }
  .grow {
    flex: 1 1 300px;
  }
  .steps {
    display: flex;
    gap: 4px;
  }
  .dot {
    width: 26px;
    height: 26px;
    border-radius: 50%;
    border: 1.5px solid var(--line);
    font-size: 13px;
    cursor: pointer;
  }
  .dot.done {
    color: var(--holds);
    border-color: var(--holds);
  }
  .dot.on {
    background: var(--ink);
    border-color: var(--ink);
    color: var(--panel);
  }
  .button {
    padding: 3px 12px;
    white-space: nowrap;
  }
  @media print {
    .guide {
      display: none;
    }
  }
</style>
