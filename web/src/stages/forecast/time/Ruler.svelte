<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { hasOwnMains } from "$lib/document/feeds";
  import type { BuildState } from "$lib/state/build.svelte";
  import { fixed } from "$lib/units/format";
  import { lasting } from "$lib/units/lasting";
  import { apart, onRuler, RULER_S, type InTime } from "./time";

  /** Time constants of the build by name, and how long each thing may be off, on one logarithmic ruler. */
  let { build, told, stopped }: { build: BuildState; told: InTime; stopped: Schemas["StoppedInTime"] | null } =
    $props();
  const TICKS: [number, string][] = [
    [1, "1 s"],
    [10, "10 s"],
    [60, "1 min"],
    [600, "10 min"],
    [3600, "1 h"],
  ];
  let width = $state(800);
  const NAMES = $derived(width < 560 ? 96 : 176);
  const SAID = $derived(width < 560 ? 130 : 240);
  const x = $derived((seconds: number) => NAMES + onRuler(seconds) * Math.max(width - NAMES - SAID, 80));
  const shown = $derived(told.constants.filter((one) => one.kind !== "body" || one.seconds === slowestBody));
  const slowestBody = $derived(
    Math.max(...told.constants.filter((one) => one.kind === "body").map((one) => one.seconds), 0),
  );
  /** names in two rows, so that neighbours do not cover each other */
  const rows = $derived([0, 1].map((row) => shown.filter((_, i) => i % 2 === row)));
  const placed = $derived(
    rows.map((row) =>
      apart(
        row.map((one) => x(one.seconds)),
        118,
        width - 60,
      ),
    ),
  );
  const rest = $derived(
    (stopped?.minutes ?? []).map((one) => ({
      ...one,
      case: stopped!.settled.cases.find((item) => item.address === one.address)!,
    })),
  );
</script>

<div class="ruler" bind:clientWidth={width}>
  <svg {width} height="74" viewBox="0 0 {width} 74" aria-hidden="true">
    <text x="0" y="15" class="head">Time constants</text>
    <text x="0" y="33" class="tick">of this build, {told.name}</text>
    {#each rows as row, r (r)}
      {#each row as one, i (one.address)}
        <text x={placed[r]![i]} y={15 + 19 * r} class="tick" text-anchor="middle"
          >{one.name.length > 14 ? `${one.name.slice(0, 13)}…` : one.name}
          <tspan class="own num">{lasting(one.seconds)}</tspan></text
        >
        <path d="M{placed[r]![i]} {18 + 19 * r}L{x(one.seconds)} 50" class="mark" />
        <path d="M{x(one.seconds) - 4} 45h8l-4 6z" class="tip" />
      {/each}
    {/each}
    <rect x={x(RULER_S[0])} y="52" width={x(RULER_S[1]) - x(RULER_S[0])} height="17" class="bar" />
    {#each TICKS as [seconds, name] (name)}
      <path d="M{x(seconds)} 52v6" class="mark" />
      <text x={x(seconds)} y="66" class="tick num" text-anchor="middle">{name}</text>
    {/each}
  </svg>
  <ul class="sr-only">
    {#each told.constants as one (one.address)}<li>{one.name} {lasting(one.seconds)}</li>{/each}
  </ul>
  <h3>Off or stopped <span class="soft">from the settled load, to the first limit</span></h3>
  {#if !stopped}
    <p class="soft">Following each thing that could stop …</p>
  {:else if !rest.length}
    <p class="soft">No fan, pump or feed that could stop.</p>
  {:else}
    <ul class="off">
      {#each rest as one (one.address)}
        {@const first = one.met[0]}
        <li>
          <button class="link" style:width="{NAMES - 8}px" onclick={() => (build.sheet = one.address)}
            >{one.case.name}</button
          >
          <span class="track" aria-hidden="true">
            {#if first}<span class="fill" style:width="{100 * onRuler(60 * first.minutes)}%"></span>
              {#each one.met.slice(1) as later (later.address)}<span
                  class="later"
                  style:left="{100 * onRuler(60 * later.minutes)}%"
                ></span>{/each}{/if}
          </span>
          <span class="said" style:width="{SAID}px">
            {#if first}
              <b class="num">{lasting(60 * first.minutes)}</b>
              {first.name} <span class="num">{fixed(first.limit_c, 0)} °C</span>{#if one.met.length > 1}<span
                  class="soft">, then {one.met.length - 1} more</span
                >{/if}{#if hasOwnMains(build.document!, one.address)}<span class="warn">: wants an interlock</span>{/if}
            {:else if one.case.no_state}
              {one.case.no_state.what}
            {:else if one.case.passes.length}
              {one.case.passes.join(", ")} after more than {fixed(stopped.looked_min / 60, 0)} h
            {:else}
              <span class="holds">passes no limit</span>
            {/if}
          </span>
        </li>
      {/each}
    </ul>
  {/if}
</div>

<style>
  .ruler {
    position: relative;
    overflow: hidden;
    margin-top: 10px;
  }
  .head {
    fill: var(--ink);
    font-size: 14px;
    font-weight: 700;
  }
  .tick {
    fill: var(--soft);
    font-size: 12.5px;
  }
  .own {
    fill: var(--ink);
    font-weight: 700;
  }
  .mark {
    stroke: var(--soft);
    fill: none;
  }
  .tip {
    fill: var(--ink);
  }
  .bar {
    fill: var(--sunk);
    stroke: var(--line);
  }
  h3 {
    font-size: 14px;
    margin-top: 6px;
  }
  .off li {
    display: flex;
    gap: 8px;
    align-items: center;
    border-top: 1px solid var(--line);
    padding: 3px 0;
    font-size: 13.5px;
  }
  .off button {
    flex: none;
    text-align: left;
  }
  .track {
    position: relative;
    flex: 1;
    height: 9px;
    background: var(--sunk);
  }
  .fill {
    position: absolute;
    inset: 0 auto 0 0;
    background: var(--soft);
  }
  .later {
    position: absolute;
    top: 0;
    bottom: 0;
    width: 2px;
    background: var(--soft);
  }
  .said {
    flex: none;
  }
  .warn {
    color: var(--too-hot);
  }
  .holds {
    color: var(--holds);
  }
</style>
