<script lang="ts">
  import { untrack } from "svelte";
  import type { WorkloadResult } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { Ghost } from "$lib/state/ghost.svelte";
  import { css, heat, textOn } from "$lib/drawing/colour";
  import { layOut, tightestFirst } from "$lib/drawing/terraces";
  import EdgeFade from "$lib/ui/EdgeFade.svelte";
  import { statusColour } from "$lib/ui/status";
  import TowerBlocks from "./TowerBlocks.svelte";
  import TowerMarks from "./TowerMarks.svelte";
  import StatusMark from "$lib/ui/StatusMark.svelte";
  import { short } from "$lib/drawing/words";
  import { celsius, fixed, kelvins, watts } from "$lib/units/format";

  /** The kelvin terraces of the workload in view, the tightest part first; one tab stop, arrows go from block to block. */
  let { build, result }: { build: BuildState; result: WorkloadResult } = $props();
  let available = $state(780);
  const HEIGHT = 318;
  const KEPT = "terraces-as-listed";
  let asListed = $state(localStorage.getItem(KEPT) === "1");
  let opened = $state.raw<string[]>([]);
  let order = $state.raw<string[]>([]);
  // the order is found anew for another workload or another set of parts, never while figures of it are being typed
  const set = $derived(`${result.workload} ${result.places.map((place) => place.address).join(" ")} ${asListed}`);
  $effect.pre(() => {
    void set;
    order = untrack(() => (asListed ? [] : tightestFirst(result)));
  });
  const drawing = $derived(layOut(result, Math.max(available, 420), HEIGHT, { order, opened }));
  const terraceColour = $derived((overRoom: number) =>
    heat(overRoom / Math.max(60, ...result.places.map((p) => (p.limit_c ?? 90) - result.room_c))),
  );
  const ghost = new Ghost();
  $effect(() => ghost.ask(build));

  let stop = $state({ tower: 0, block: 0 });
  let svg: SVGSVGElement | undefined = $state();
  const STEPS: Record<string, [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, 1],
    ArrowDown: [0, -1],
  };

  function onkeydown(event: KeyboardEvent) {
    const step = STEPS[event.key];
    if (!step || event.altKey || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    const tower = clamp(stop.tower + step[0], drawing.towers.length);
    const block = clamp(stop.block + step[1], drawing.towers[tower]!.blocks.length);
    stop = { tower, block };
    svg?.querySelectorAll("[data-tower]")[tower]?.querySelector<SVGElement>(`[data-block="${block}"]`)?.focus();
  }

  const clamp = (value: number, count: number) => Math.min(Math.max(value, 0), count - 1);

  function open(address: string) {
    opened = opened.includes(address) ? opened.filter((one) => one !== address) : [...opened, address];
  }

  function setOrder() {
    asListed = !asListed;
    localStorage.setItem(KEPT, asListed ? "1" : "0");
  }
</script>

<div class="order">
  {#if opened.length}<button class="link" onclick={() => (opened = [])}>Small hops together</button>{/if}
  <button class="link" aria-pressed={!asListed} onclick={setOrder}>Tightest first</button>
</div>
<EdgeFade bind:width={available} testid="terraces" middles={drawing.towers.map((tower) => tower.x + tower.width / 2)}>
  <svg
    bind:this={svg}
    width={drawing.width}
    height={HEIGHT + 8}
    role="toolbar"
    tabindex="-1"
    aria-label="Kelvin terraces of every part"
    {onkeydown}
  >
    <defs>
      <pattern id="hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <line x1="0" y1="0" x2="0" y2="7" stroke="var(--hatch)" stroke-width="1.500" />
      </pattern>
      <pattern id="over" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
        <line x1="0" y1="0" x2="0" y2="6" stroke="var(--too-hot)" stroke-width="3" />
      </pattern>
    </defs>
    {#each drawing.ticks as tick (tick.c)}
      <line x1="42" x2={drawing.width} y1={tick.y} y2={tick.y} stroke="var(--line)" stroke-dasharray="2 5" />
      <text x="38" y={tick.y + 4} class="tick num" text-anchor="end">{tick.c}</text>
    {/each}
    <text x="38" y="14" class="tick" text-anchor="end">°C</text>
    <text x="38" y={drawing.ground + 2} class="tick num" text-anchor="end">{fixed(result.room_c, 0)}</text>
    {#each drawing.terraces as terrace (terrace.address)}
      {@const colour = terraceColour(terrace.overRoom / 2)}
      <g data-terrace={terrace.address}>
        <rect x={terrace.x} y={terrace.y} width={terrace.width} height={terrace.height} fill={css(colour)} rx="3" />
        {#if terrace.height > 17}
          {@const narrow = terrace.width < 150 && terrace.height > 34}
          <text x={terrace.x + 9} y={terrace.y + 15} fill={textOn(colour)} class="block">
            {short(
              narrow
                ? terrace.name
                : `${terrace.name} over room, ${watts(terrace.watts)}${terrace.detail ? ` · ${terrace.detail}` : ""}`,
              terrace.width - (narrow ? 18 : 74),
              7.2,
            )}
          </text>
          <text
            x={narrow ? terrace.x + 9 : terrace.x + terrace.width - 9}
            y={terrace.y + (narrow ? 31 : 15)}
            fill={textOn(colour)}
            class="num block"
            text-anchor={narrow ? "start" : "end"}>{kelvins(terrace.overRoom)}</text
          >
        {/if}
      </g>
    {/each}
    {#each drawing.towers as tower, i (tower.place.address)}
      <TowerBlocks
        {build}
        {tower}
        stop={clamp(stop.tower, drawing.towers.length) === i ? clamp(stop.block, tower.blocks.length) : null}
        open={() => open(tower.place.address)}
        onfocus={(block) => (stop = { tower: i, block })}
      />
    {/each}
    {#each drawing.towers as tower (tower.place.address)}
      <TowerMarks {build} {result} {tower} ground={drawing.ground} before={ghost.celsius[tower.place.address]} />
    {/each}
    <line
      x1="42"
      x2={drawing.width}
      y1={drawing.ground + 1}
      y2={drawing.ground + 1}
      stroke="var(--ink)"
      stroke-width="2"
    />
  </svg>
  <div class="names" style:width="{drawing.width}px">
    {#each drawing.towers as tower (tower.place.address)}
      <button
        class="name"
        class:view={build.selected === tower.place.address}
        style:left="{tower.x}px"
        style:width="{tower.width}px"
        onclick={() => (build.selected = tower.place.address)}
        title="{tower.place.name}: {tower.place.status}"
      >
        <span class="line"><strong>{tower.place.name}</strong></span>
        <span class="line">
          <span class="num" style:color={statusColour(tower.place.status)}>{celsius(tower.place.temperature_c)}</span>
          <StatusMark status={tower.place.status} size={13} />
        </span>
        <span class="num soft watts">{watts(tower.place.watts)}</span>
      </button>
    {/each}
  </div>
</EdgeFade>

<style>
  .order {
    display: flex;
    justify-content: flex-end;
    gap: 16px;
    font-size: 13.5px;
    min-height: 24px;
  }
  .order [aria-pressed="false"] {
    text-decoration-style: dotted;
    color: var(--soft);
  }
  .tick {
    font-size: 12.5px;
    fill: var(--soft);
  }
  .block {
    font-size: 13.5px;
    font-weight: 550;
    pointer-events: none;
  }
  .names {
    position: relative;
    height: 58px;
  }
  .name {
    position: absolute;
    top: 2px;
    text-align: left;
    padding: 0 3px;
    line-height: 1.25;
    cursor: pointer;
    border-radius: 5px;
  }
  .name.view {
    background: var(--sunk);
  }
  .line {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 6px;
    overflow: hidden;
    white-space: nowrap;
  }
  .line strong {
    overflow: hidden;
    text-overflow: ellipsis;
    font-size: 14px;
  }
  .watts {
    font-size: 12.5px;
    display: block;
  }
</style>
