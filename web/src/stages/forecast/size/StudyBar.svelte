<script lang="ts">
  import type { Snippet } from "svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Studies } from "$lib/state/study.svelte";
  import { clock, fixed } from "$lib/units/format";

  /** Ask, watch and cancel; earlier studies to turn back to. */
  let {
    build,
    studies,
    size,
    solve,
    children,
  }: { build: BuildState; studies: Studies; size: number; solve: () => void; children?: Snippet } = $props();
  const WAITED_MS = 5000;
  const study = $derived(studies.current);
  const share = $derived(study ? (100 * study.solved) / Math.max(study.size, 1) : 0);
  let waitedLong = $state(false);
  // by value: every answer about the study is a new object
  const waiting = $derived(study?.state === "waiting" ? study.id : "");
  $effect(() => {
    waitedLong = false;
    if (!waiting) return;
    const timer = setTimeout(() => (waitedLong = true), WAITED_MS);
    return () => clearTimeout(timer);
  });
</script>

<div class="bar">
  {@render children?.()}
  {#if studies.open && study}
    <progress max="100" value={share} aria-label="Candidates solved"></progress>
    <span class="num" role="status">{study.solved.toLocaleString("en")} of {study.size.toLocaleString("en")}</span>
    <button class="button" onclick={() => studies.cancel()}>Cancel</button>
    {#if waitedLong}<span class="soft">waiting for a worker; is one running?</span>{/if}
  {:else}
    <button
      class="button main"
      disabled={!build.editable || studies.asking || size > 10_000 || size < 1}
      onclick={solve}>{studies.asking ? "Asking …" : `Solve ${size.toLocaleString("en")} candidates`}</button
    >
    {#if study?.state === "cancelled"}<span class="soft">cancelled at {fixed(share, 0)} %</span>{/if}
    {#if study?.state === "failed"}<span class="fault" role="alert">{study.failure}</span>{/if}
  {/if}
  <span class="grow"></span>
  {#if studies.list.length && study}
    <label class="soft"
      >Studies
      <select
        class="field"
        value={study.id}
        onchange={(e) => {
          const found = studies.list.find((item) => item.id === e.currentTarget.value);
          if (found) void studies.look(found);
        }}
      >
        {#each studies.list as item (item.id)}
          <option value={item.id}>{clock(item.created)} · {item.size} · {item.state}</option>
        {/each}
      </select></label
    >
    {#if study.state === "done"}
      <a class="button" href={`/api/studies/${study.id}/candidates.csv`} download>CSV</a>
    {/if}
    {#if build.editable && !studies.open}
      <button class="button" onclick={() => studies.remove(study)}>Delete</button>
    {/if}
    {#if !study.of_draft}<span class="soft text-sm">of the build before its last changes</span>{/if}
  {/if}
</div>

<style>
  .bar {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 10px;
    margin-top: 10px;
  }
  progress {
    accent-color: var(--accent);
    width: 220px;
    height: 12px;
  }
</style>
