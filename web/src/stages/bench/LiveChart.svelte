<script lang="ts">
  import { STOPS } from "$lib/drawing/colour";
  import { lineThrough, scaleOf, spanOf } from "$lib/drawing/scale";
  import { fixed } from "$lib/units/format";
  import type { Schemas } from "$lib/api/client";
  import { roleOf, thinned, type Curve, type Point } from "./live";

  /** The measured line as it comes, in the band that was predicted for it; the others pale, what failed as marks. */
  let {
    told,
    curves,
    lines,
    chosen,
    minutes,
    marks,
  }: {
    told: Schemas["InTime"] | null;
    curves: Curve[];
    lines: Record<string, Point[]>;
    chosen: string;
    minutes: number;
    marks: { minute: number; name: string }[];
  } = $props();
  const LEFT = 44;
  const TOP = 14;
  const HEIGHT = 286;
  const BOTTOM = TOP + HEIGHT;
  const DRAWN = 700;
  let width = $state(700);
  const right = $derived(width - 12);
  const curve = $derived(curves.find((one) => one.address === chosen));
  const own = $derived(curve ? (lines[roleOf(curve)] ?? []) : []);
  const rest = $derived(curves.filter((one) => one.address !== chosen));
  const planned = $derived(told?.minutes.findLast((m) => m <= Math.max(minutes * 1.1, 20)) ?? 20);
  const last = $derived(Math.max(planned, minutes * 1.02));
  const first = $derived(Math.max(Math.min(own[0]?.[0] ?? -1, -1), -10));
  const shown = $derived(
    told ? told.minutes.map((m, i) => [m, i] as const).filter(([m]) => m >= first && m <= last) : [],
  );
  const span = $derived(
    spanOf(
      [
        ...own.map(([, c]) => c),
        ...rest.flatMap((one) => (lines[roleOf(one)] ?? []).map(([, c]) => c)),
        ...(curve ? shown.flatMap(([, i]) => [curve.low_c?.[i] ?? curve.c[i]!, curve.high_c?.[i] ?? curve.c[i]!]) : []),
        ...(curve?.limit_c != null && Math.max(...own.map(([, c]) => c), curve.settles_c) > curve.limit_c - 25
          ? [curve.limit_c]
          : []),
      ],
      2,
    ),
  );
  const x = $derived(scaleOf([first, last], [LEFT, right]));
  const y = $derived(scaleOf(span, [BOTTOM, TOP]));
  const path = (points: readonly Point[]) =>
    lineThrough(
      thinned(
        points.filter(([m]) => m >= first),
        DRAWN,
      ).map(([m, c]) => [x(m), y(c)]),
    );
  const band = $derived.by(() => {
    const { low_c: low, high_c: high } = curve ?? {};
    if (!low || !high) return "";
    const upper = lineThrough(shown.map(([m, i]) => [x(m), y(high[i]!)]));
    return `${upper}L${lineThrough(shown.map(([m, i]) => [x(m), y(low[i]!)] as [number, number]).reverse()).slice(1)}Z`;
  });
</script>

<div bind:clientWidth={width}>
  <svg {width} height={BOTTOM + 26} role="img" aria-label="{curve?.name ?? 'Readings'} over minutes of the load">
    <defs>
      <linearGradient id="live-warmth" gradientUnits="userSpaceOnUse" x1="0" x2="0" y1={BOTTOM} y2={TOP}>
        {#each STOPS as [offset, colour] (offset)}<stop {offset} stop-color={colour} />{/each}
      </linearGradient>
    </defs>
    {#each y.ticks(5) as tick (tick)}
      <path d="M{LEFT} {y(tick)}H{right}" class="grid" />
      <text x={LEFT - 8} y={y(tick) + 4} text-anchor="end" class="num">{tick}</text>
    {/each}
    {#if band}<path d={band} fill="url(#live-warmth)" opacity="0.34" data-testid="live-band" />{/if}
    {#if curve}
      <path d={lineThrough(shown.map(([m, i]) => [x(m), y(curve.c[i]!)]))} class="predicted" />
      {#if curve.limit_c !== null && curve.limit_c <= span[1]}
        <path d="M{LEFT} {y(curve.limit_c)}H{right}" class="limit" />
        <text x={right - 4} y={y(curve.limit_c) - 5} text-anchor="end" class="ink"
          >limit {fixed(curve.limit_c, 0)} °C</text
        >
      {/if}
    {/if}
    {#each rest as one (one.address)}<path d={path(lines[roleOf(one)] ?? [])} class="other" />{/each}
    <path d={path(own)} class="own" data-testid="live-line" />
    {#if own.length}
      {@const [m, c] = own.at(-1)!}
      <circle cx={x(m)} cy={y(c)} r="4.500" class="dot" />
    {/if}
    <path d="M{x(0)} {TOP}V{BOTTOM}" class="on" />
    {#each marks as mark (mark.minute + mark.name)}
      {#if mark.minute >= first}
        <path d="M{x(mark.minute)} {TOP}V{BOTTOM}" class="mark" />
        <text x={x(mark.minute) + 5} y={TOP + 12} class="bad">{mark.name}</text>
      {/if}
    {/each}
    {#each x.ticks(width < 560 ? 4 : 8) as tick (tick)}
      <text x={x(tick)} y={BOTTOM + 19} text-anchor="middle" class="num">{tick}</text>
    {/each}
    <text x={right} y={BOTTOM + 19} text-anchor="end">min</text>
    <path d="M{LEFT} {BOTTOM}H{right}" class="axis" />
  </svg>
</div>

<style>
  svg {
    display: block;
  }
  path {
    fill: none;
  }
  path[data-testid="live-band"] {
    fill: url(#live-warmth);
  }
  .grid {
    stroke: var(--line);
    stroke-dasharray: 2 4;
  }
  .axis,
  .on {
    stroke: var(--soft);
  }
  .on {
    stroke-dasharray: 1 3;
  }
  .predicted {
    stroke: var(--ink);
    stroke-dasharray: 5 4;
    stroke-width: 1.2;
  }
  .limit {
    stroke: var(--ink);
    stroke-width: 1.4;
  }
  .other {
    stroke: var(--soft);
    stroke-width: 1;
    opacity: 0.55;
  }
  .own {
    stroke: var(--accent);
    stroke-width: 2.6;
  }
  .dot {
    fill: var(--accent);
  }
  .mark {
    stroke: var(--too-hot);
    stroke-dasharray: 4 3;
  }
  text {
    fill: var(--soft);
    font-size: 12.5px;
  }
  .ink {
    fill: var(--ink);
  }
  .bad {
    fill: var(--too-hot);
    font-weight: 700;
    paint-order: stroke;
    stroke: var(--panel);
    stroke-width: 5px;
  }
</style>
