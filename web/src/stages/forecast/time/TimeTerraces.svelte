<script lang="ts">
  import { css, heat } from "$lib/drawing/colour";
  import { UNDER } from "$lib/drawing/terraces";
  import { statusColour } from "$lib/ui/status";
  import { fixed } from "$lib/units/format";
  import { dropAt, type Curve, type InTime } from "./time";

  /** Where every place's kelvins lie at a minute: the shared ones below, its own on them; dashed where it ends. */
  let { told, minute, chosen = $bindable() }: { told: InTime; minute: number; chosen: string } = $props();
  const HEIGHT = 190;
  const TOP = 10;
  const FOOT = 32;
  const LEFT = 34;
  const LABELLED = 13;
  let width = $state(420);
  const places = $derived(told.curves.filter((curve) => curve.kind === "place"));
  const highest = $derived(
    Math.max(...places.map((one) => Math.max(one.settles_c, one.limit_c ?? 0)), told.room_c + 10),
  );
  const y = $derived(
    (c: number) => HEIGHT - FOOT - ((c - told.room_c) / (highest - told.room_c)) * (HEIGHT - FOOT - TOP),
  );
  const step = $derived((width - LEFT) / Math.max(places.length, 1));
  const ticks = $derived([20, 40, 60, 80, 100, 120].filter((c) => c > told.room_c + 3 && c < highest));

  type Block = { name: string; from: number; to: number; shared: boolean };
  /** From the room up to the place. */
  function blocks(curve: Curve): Block[] {
    let from = told.room_c;
    return [...curve.hops].reverse().map((hop) => {
      const to = from + dropAt(told, hop, minute);
      const block = { name: hop.name, from, to, shared: UNDER.includes(hop.kind) };
      from = to;
      return block;
    });
  }
  const short = (name: string) => {
    const most = Math.max(Math.floor(step / 6.4), 3);
    return name.length > most ? `${name.slice(0, most - 1)}…` : name;
  };
</script>

<div bind:clientWidth={width}>
  <svg {width} height={HEIGHT} role="group" aria-label="Terraces {fixed(minute, 0)} min after load on">
    {#each ticks as c (c)}
      <path d="M{LEFT} {y(c)}H{width}" class="grid" />
      <text x={LEFT - 5} y={y(c) + 4} class="tick num" text-anchor="end">{c}</text>
    {/each}
    {#each places as curve, i (curve.address)}
      {@const left = LEFT + i * step + 2}
      {@const wide = Math.max(step - 4, 3)}
      {@const stack = blocks(curve)}
      {@const limit = curve.limit_c ?? 95}
      {@const top = stack.at(-1)?.to ?? told.room_c}
      <g
        role="button"
        tabindex="0"
        class="place"
        class:chosen={curve.address === chosen}
        aria-label="{curve.name} {fixed(top)} °C: {stack
          .map((b) => `${b.name} ${fixed(b.to - b.from)} K`)
          .reverse()
          .join(', ')}"
        onclick={() => (chosen = curve.address)}
        onkeydown={(event) => event.key === "Enter" && (chosen = curve.address)}
      >
        {#each stack as block, k (k)}
          {@const high = y(Math.max(block.from, block.to))}
          {@const tall = Math.abs(y(block.from) - y(block.to))}
          {#if tall >= 0.5}
            <rect
              x={left}
              y={high + 0.5}
              width={wide}
              height={Math.max(tall - 1, 0.5)}
              fill={css(heat(((block.from + block.to) / 2 - told.room_c) / Math.max(limit - told.room_c, 1)))}
            >
              <title>{block.name}: {fixed(block.to - block.from)} K</title>
            </rect>
            {#if tall > LABELLED && wide > 44}
              <text x={left + 4} y={high + 12} class="in">{short(block.name)}</text>
            {/if}
          {/if}
        {/each}
        <path d="M{left} {y(curve.settles_c)}h{wide}" class="ends" />
        {#if curve.limit_c !== null}
          <path
            d="M{left} {y(curve.limit_c)}h{wide}"
            stroke={statusColour(curve.status ?? "unknown")}
            stroke-width="2.500"
          />
        {/if}
        <text x={left + wide / 2} y={HEIGHT - 17} class="tick" text-anchor="middle">{short(curve.name)}</text>
        <text x={left + wide / 2} y={HEIGHT - 3} class="num own" text-anchor="middle">{fixed(top)}</text>
      </g>
    {/each}
    <path d="M{LEFT} {y(told.room_c)}H{width}" class="ground" />
  </svg>
</div>

<style>
  .grid {
    stroke: var(--line);
    stroke-dasharray: 2 5;
  }
  .ground {
    stroke: var(--ink);
    stroke-width: 2;
  }
  .ends {
    stroke: var(--ink);
    stroke-width: 1.2;
    stroke-dasharray: 3 3;
  }
  .place {
    cursor: pointer;
    outline: none;
  }
  .place:focus-visible .own,
  .place.chosen .own {
    text-decoration: underline;
    text-decoration-color: var(--accent);
    text-decoration-thickness: 2px;
  }
  text {
    font-size: 12px;
    fill: var(--ink);
  }
  .tick {
    fill: var(--soft);
  }
  .own {
    font-weight: 650;
  }
  .in {
    font-size: 11px;
    fill: #10161a;
    pointer-events: none;
  }
</style>
