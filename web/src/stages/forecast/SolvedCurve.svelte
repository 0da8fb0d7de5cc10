<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { isDuty } from "$lib/document/addresses";
  import { lineThrough, scaleOf, spanOf, type Span } from "$lib/drawing/scale";
  import { fixed, significant } from "$lib/units/format";

  /** What was solved for in a sentence, and what values on the way give. */
  let { answer, name, of }: { answer: Schemas["SolvedFor"]; name: string; of: string } = $props();
  const WHAT = {
    margin: "margin",
    temperature: "temperature",
    flow: "flow",
    level: "sound level",
    watts: "least margin",
    rise: "rise over the room",
    height: "height of the stack",
  };
  const HEIGHT = 260;
  const LEFT = 52;
  const RIGHT = 16;
  const TOP = 24;
  const BOTTOM = 34;
  let width = $state(600);
  const duty = $derived(isDuty(answer.address));
  const scale = $derived(duty ? 100 : 1);
  const unit = $derived(duty ? "%" : answer.unit);
  const points = $derived(answer.curve.map(([at, got]) => [scale * at!, got!] as const));
  const xs: Span = $derived([points[0]?.[0] ?? 0, points.at(-1)?.[0] ?? 1]);
  /** Far from what is wanted nothing is decided: the scale keeps what matters in view. */
  const ys: Span = $derived.by(() => {
    const [low, high] = spanOf([...points.map((p) => p[1]), answer.curve_wanted]);
    const reach = answer.curve_unit === "dBA" ? 30 : 60;
    return [Math.max(low, answer.curve_wanted - reach), Math.min(high, answer.curve_wanted + reach)];
  });
  const x = $derived(scaleOf(xs, [LEFT, width - RIGHT]));
  const y = $derived(scaleOf(ys, [HEIGHT - BOTTOM, TOP]));
  const inside = $derived(points.filter((p) => p[1] >= ys[0] && p[1] <= ys[1]));
  const now = $derived(scale * answer.now);
</script>

<p class="mt-3" role="status">
  {#if answer.reached}
    <strong class="num">{significant(scale * answer.value)} {unit}</strong>
    <span class="soft">(now {significant(now)} {unit}) gives</span>
    <span class="num">{fixed(answer.got)} {answer.goal_unit}</span>
  {:else}
    <strong>Not reached:</strong>
    {answer.because}
    <span class="soft">(at {significant(scale * answer.value)} {unit})</span>
  {/if}
</p>
{#if points.length > 1}
  <div bind:clientWidth={width}>
    <svg {width} height={HEIGHT} role="img" aria-label="What {name} gives">
      {#each y.ticks(5) as tick (tick)}
        <line x1={LEFT} x2={width - RIGHT} y1={y(tick)} y2={y(tick)} stroke="var(--line)" />
        <text x={LEFT - 6} y={y(tick) + 4} text-anchor="end" class="num">{significant(tick)}</text>
      {/each}
      {#each x.ticks(7) as tick (tick)}
        <text x={x(tick)} y={HEIGHT - BOTTOM + 16} text-anchor="middle" class="num">{significant(tick)}</text>
      {/each}
      <text x="2" y="11"
        >{WHAT[answer.goal as keyof typeof WHAT]}{of && answer.goal !== "watts" ? ` of ${of}` : ""}, {answer.curve_unit}</text
      >
      <text x={width - RIGHT} y={HEIGHT - 3} text-anchor="end">{name}{unit ? `, ${unit}` : ""}</text>
      {#if now >= xs[0] && now <= xs[1]}
        <line x1={x(now)} x2={x(now)} y1={TOP} y2={HEIGHT - BOTTOM} stroke="var(--soft)" stroke-dasharray="2 4" />
        <text x={x(now) + 4} y={TOP + 10}>now</text>
      {/if}
      <line
        x1={LEFT}
        x2={width - RIGHT}
        y1={y(answer.curve_wanted)}
        y2={y(answer.curve_wanted)}
        stroke="var(--ink)"
        stroke-dasharray="6 4"
      />
      <text x={width - RIGHT} y={y(answer.curve_wanted) - 5} text-anchor="end" class="ink">
        wanted
        {significant(answer.curve_wanted)}
        {answer.curve_unit}
      </text>
      <path
        d={lineThrough(inside.map(([at, got]) => [x(at), y(got)]))}
        fill="none"
        stroke="var(--ink)"
        stroke-width="2.4"
      />
      {#if answer.reached}<circle
          cx={x(scale * answer.value)}
          cy={y(answer.goal === "watts" ? answer.curve_wanted : answer.got)}
          r="6"
          fill="var(--accent)"
          stroke="var(--panel)"
        />{/if}
    </svg>
  </div>
{/if}

<style>
  text {
    font-size: 12px;
    fill: var(--soft);
  }
  .ink {
    fill: var(--ink);
  }
</style>
