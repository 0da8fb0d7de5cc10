<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { css, heat } from "$lib/drawing/colour";
  import { short } from "$lib/drawing/words";
  import { fixed, signed } from "$lib/units/format";

  /** Both runs on one scale of kelvins over each room: filled as predicted, the outline as measured, dashed where A stood. */
  let { parts, names }: { parts: Schemas["PartDifference"][]; names: [string, string] } = $props();
  const HIGH = 220;
  const TOP = 22;
  const LEFT = 44;
  const BESIDE = 26;
  let available = $state(760);
  const width = $derived(Math.max(available, 2 * LEFT + parts.length * 64));
  const most = $derived(
    Math.max(...parts.flatMap((p) => [p.first_k, p.second_k, p.first_predicted_k, p.second_predicted_k]), 5) * 1.04,
  );
  const half = $derived((width - LEFT - BESIDE) / 2);
  const step = $derived(half / Math.max(parts.length, 1));
  const wide = $derived(Math.min(step - 8, 74));
  const y = $derived((kelvin: number) => TOP + HIGH - (Math.max(kelvin, 0) / most) * HIGH);
  const ticks = $derived([10, 20, 30, 40, 60, 80, 100].filter((k) => k < most && (most < 60 || k % 20 === 0)));
  const sides = $derived([
    { name: names[0], left: LEFT, of: (p: Schemas["PartDifference"]) => [p.first_predicted_k, p.first_k] as const },
    {
      name: names[1],
      left: LEFT + half + BESIDE,
      of: (p: Schemas["PartDifference"]) => [p.second_predicted_k, p.second_k] as const,
    },
  ]);
</script>

<div class="overflow-x-auto" bind:clientWidth={available} data-testid="twin-towers">
  <svg {width} height={TOP + HIGH + 42} role="img" aria-label="Both runs over their rooms, part by part">
    {#each ticks as tick (tick)}
      <line x1={LEFT} x2={width} y1={y(tick)} y2={y(tick)} stroke="var(--line)" stroke-dasharray="2 5" />
      <text x={LEFT - 4} y={y(tick) + 4} class="tick num" text-anchor="end">{tick} K</text>
    {/each}
    {#each sides as side, s (s)}
      <text x={side.left} y="13" class="name">{s ? "B" : "A"}: {short(side.name, half - 30, 7.6)}</text>
      {#each parts as part, i (part.role)}
        {@const [predicted, measured] = side.of(part)}
        {@const x = side.left + i * step}
        <rect
          {x}
          y={y(predicted)}
          width={wide}
          height={TOP + HIGH - y(predicted)}
          rx="3"
          fill={css(heat(Math.min(predicted / most, 1) * 0.8))}
        />
        <rect
          x={x - 3}
          y={y(measured)}
          width={wide + 6}
          height={TOP + HIGH - y(measured)}
          class="measured"
          class:uncounted={part.conclusion === "not counted"}
        />
        <circle cx={x + wide / 2} cy={y(measured)} r="4" fill="var(--ink)" />
        {#if s}
          <line x1={x - 3} x2={x + wide + 3} y1={y(part.first_k)} y2={y(part.first_k)} class="before" />
          <text {x} y={Math.max(Math.min(y(part.first_k), y(measured)) - 7, 24)} class="num change"
            >{signed(part.measured_k)}</text
          >
        {/if}
        <text x={x + wide / 2} y={TOP + HIGH + 16} class="part" text-anchor="middle">{i + 1}</text>
        <text x={x + wide / 2} y={TOP + HIGH + 32} class="num tick" text-anchor="middle">{fixed(measured)}</text>
      {/each}
    {/each}
    <line x1={LEFT} x2={width} y1={TOP + HIGH} y2={TOP + HIGH} stroke="var(--ink)" stroke-width="2" />
  </svg>
</div>
<p class="soft text-sm">
  Kelvins over the room; numbers as in the table below. Filled: predicted. Outline and dot: measured. Dashed in B: where
  A stood, with the difference as measured.
</p>

<style>
  .tick,
  .change {
    font-size: 12px;
    fill: var(--soft);
  }
  .change {
    font-weight: 650;
    fill: var(--ink);
  }
  .name {
    font-size: 13.5px;
    font-weight: 650;
    fill: var(--ink);
  }
  .part {
    font-size: 13px;
    font-weight: 650;
    fill: var(--ink);
  }
  .measured {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.8;
  }
  .uncounted {
    stroke-dasharray: 3 3;
  }
  .before {
    stroke: var(--soft);
    stroke-width: 1.5;
    stroke-dasharray: 5 3;
  }
</style>
