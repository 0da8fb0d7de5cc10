<script lang="ts">
  import type { WorkloadResult } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { css, heat, textOn } from "$lib/drawing/colour";
  import { layOut } from "$lib/drawing/terraces";
  import { statusColour } from "$lib/ui/status";
  import TowerBlocks from "./TowerBlocks.svelte";
  import StatusMark from "$lib/ui/StatusMark.svelte";
  import { short } from "$lib/drawing/words";
  import { celsius, fixed, kelvins, watts } from "$lib/units/format";

  let { build, result }: { build: BuildState; result: WorkloadResult } = $props();
  let available = $state(780);
  const HEIGHT = 318;
  const drawing = $derived(layOut(result, Math.max(available, 420), HEIGHT));
  const terraceColour = $derived((overRoom: number) =>
    heat(overRoom / Math.max(60, ...result.places.map((p) => (p.limit_c ?? 90) - result.room_c))),
  );
</script>

<div class="scroller" bind:clientWidth={available} data-testid="terraces">
  <svg width={drawing.width} height={HEIGHT + 8} role="group" aria-label="Kelvin terraces of every part">
    <defs>
      <pattern id="hatch" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <line x1="0" y1="0" x2="0" y2="7" stroke="var(--hatch)" stroke-width="1.500" />
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
    {#each drawing.towers as tower (tower.place.address)}
      <TowerBlocks {build} {result} {tower} ground={drawing.ground} />
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
</div>

<style>
  .scroller {
    overflow-x: auto;
    margin-top: 4px;
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
