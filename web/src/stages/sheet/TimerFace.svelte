<script lang="ts">
  import type { Timer } from "$lib/state/standing";

  /** What is left of a watch, with the hours at which to look. */
  let { timer, now, looks }: { timer: Timer; now: number; looks: number[] } = $props();
  const total = $derived(Math.max(timer.rings - timer.started, 1));
  const left = $derived(Math.max(timer.rings - now, 0) / 60_000);
  const past = $derived(Math.min(100, (100 * (now - timer.started)) / total));
  const over = $derived(timer.rings <= now);
  const nextLook = $derived(looks.find((hours) => timer.started + hours * 3_600_000 > now));
  const words = (hours: number) => (hours < 1 ? `${Math.round(hours * 60)} min` : `${hours} h`);
</script>

<p class="left num" role="timer" class:over>
  {#if over}over{:else}<b>{Math.floor(left / 60)}</b> h <b>{String(Math.floor(left % 60)).padStart(2, "0")}</b> min left{/if}
</p>
<div class="line">
  <span class="past" style:width="{past}%"></span>
  {#each looks as hours (hours)}<span class="look" style:left="{Math.min(100, (100 * hours * 3_600_000) / total)}%"
    ></span>{/each}
</div>
<p class="soft text-sm">
  {#if over}Look once more, then it is done.{:else if nextLook}look at {looks.map(words).join(", ")} · next look {words(
      nextLook,
    )}{/if}
</p>

<style>
  .left {
    font-size: 15px;
  }
  .left b {
    font-size: 25px;
  }
  .over {
    color: var(--accent-text);
    font-weight: 700;
    font-size: 25px;
  }
  .line {
    position: relative;
    height: 8px;
    background: var(--line);
    border-radius: 4px;
  }
  .past {
    position: absolute;
    inset: 0 auto 0 0;
    background: var(--ink);
    border-radius: 4px;
  }
  .look {
    position: absolute;
    top: -3px;
    width: 2px;
    height: 14px;
    background: var(--soft);
  }
</style>
