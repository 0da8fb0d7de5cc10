<script lang="ts">
  import { threadAt, type Step, type Thread } from "./sheet";

  /** Threads past one row: a ring where a thing goes in, a line while it is in reach, a square at what hides it. */
  let {
    step,
    steps,
    threads,
    chosen,
    passed,
    choose,
  }: {
    step: Step;
    steps: Step[];
    threads: Thread[];
    chosen: string | null;
    passed: boolean;
    choose: (thing: string) => void;
  } = $props();
</script>

<div class="threads" style:--count={threads.length}>
  {#each threads as thread, i (thread.thing)}
    {@const at = threadAt(thread, step, steps)}
    {#if at !== "none"}
      <span class="thread at-{at}" class:on={chosen === thread.thing} style:--at={i}>
        {#if at === "begins"}
          <button
            class="label"
            onclick={() => choose(thread.thing)}
            aria-pressed={chosen === thread.thing}
            title="{thread.name}: hidden because {thread.why}">{thread.name}</button
          >
        {:else if at === "seen" && passed}<span class="tick" aria-hidden="true">✓</span>{/if}
      </span>
    {/if}
  {/each}
</div>

<style>
  .threads {
    position: relative;
    align-self: stretch;
    min-width: calc(var(--count) * 17px + 76px);
  }
  .thread {
    position: absolute;
    left: calc(var(--at) * 17px + 8px);
    top: 0;
    bottom: 0;
    width: 0;
    border-left: 2px solid var(--soft);
  }
  .thread.on {
    border-left: 3px solid var(--accent);
  }
  .thread.at-past {
    border-left: 1px dotted var(--line);
  }
  .at-begins {
    top: 50%;
  }
  .at-begins::before,
  .at-seen::before {
    content: "";
    position: absolute;
    left: -6px;
    top: -5px;
    width: 10px;
    height: 10px;
    border: 2px solid var(--ink);
    border-radius: 50%;
    background: var(--ground);
  }
  .at-seen::before {
    left: -9px;
    top: calc(50% - 8px);
    width: 16px;
    height: 16px;
    border-color: var(--holds);
    background: var(--panel);
    z-index: 1;
  }
  .tick {
    position: absolute;
    left: -6px;
    top: calc(50% - 10px);
    z-index: 2;
    font-size: 12px;
    font-weight: 700;
    color: var(--holds);
  }
  .at-hidden {
    bottom: 50%;
  }
  .at-hidden::after {
    content: "";
    position: absolute;
    left: -6px;
    bottom: -5px;
    width: 10px;
    height: 10px;
    background: var(--ink);
  }
  .label {
    position: absolute;
    left: 9px;
    top: -10px;
    white-space: nowrap;
    font-size: 12.5px;
    line-height: 20px;
    cursor: pointer;
    color: var(--soft);
    background: var(--ground);
    padding-right: 3px;
    z-index: 1;
    max-width: 130px;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .on .label {
    color: var(--ink);
    font-weight: 700;
  }
</style>
