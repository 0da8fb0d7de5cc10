<script lang="ts">
  import type { Result, Studies } from "$lib/state/study.svelte";
  import { fixed } from "$lib/units/format";
  import { lineThrough, scaleOf, spanOf, type Span } from "$lib/drawing/scale";
  import { nearestDot, paintDots, type Dot } from "./shapes";
  import { nearestIn, WAYS } from "$lib/ui/roving";
  import { unitOf, type Brush, type Figure } from "./filter";
  import type { Shown } from "./tradeoffs";

  /** Every candidate in view at its two figures, with the trade-offs joined by a line; drag to keep a rectangle. */
  let {
    studies,
    result,
    shown,
    figures,
    front,
    best,
    shapeAt,
    brush = $bindable(),
    pointed = $bindable(),
  }: {
    studies: Studies;
    result: Result;
    shown: number[];
    figures: Shown;
    front: number[];
    best: number[];
    shapeAt: number;
    brush: Brush;
    pointed: number | null;
  } = $props();
  const HEIGHT = 330;
  const LEFT = 44;
  const RIGHT = 12;
  const TOP = 12;
  const BOTTOM = 34;
  let width = $state(440);
  let drag = $state<{ x0: number; y0: number; x1: number; y1: number } | null>(null);

  const span = (figure: Figure) => spanOf(result.columns[figure] ?? []);
  const ys: Span = $derived.by(() => {
    const [low, high] = span(figures.y);
    // far below every demand nothing is decided: the scale keeps what matters in view
    return [figures.y === "margin_k" ? Math.max(low, high - 60) : low, high];
  });
  const x = $derived(scaleOf(span(figures.x), [LEFT, width - RIGHT]));
  const y = $derived(scaleOf(ys, [HEIGHT - BOTTOM, TOP]));
  const radius = $derived(scaleOf(span("height_mm"), [2.6, 6]));
  const meets = $derived(new Set(result.meets));
  const dots: Dot[] = $derived(
    shown.flatMap((number) => {
      const a = result.columns[figures.x]?.[number];
      const b = result.columns[figures.y]?.[number];
      if (a == null || b == null || b < ys[0]) return [];
      const height = result.columns["height_mm"]?.[number];
      const shape = shapeAt < 0 ? 0 : studies.optionsOf(number)[shapeAt]!;
      return [
        { number, x: x(a), y: y(b), radius: height == null ? 3.5 : radius(height), shape, meets: meets.has(number) },
      ];
    }),
  );
  const dotOf = $derived(new Map(dots.map((dot) => [dot.number, dot])));
  const dotsOf = (numbers: number[]) => numbers.flatMap((number) => dotOf.get(number) ?? []);
  const line = $derived(dotsOf(front));
  const named = $derived(dotsOf(best));
  const paint = (node: HTMLCanvasElement) => paintDots(node, dots, width, HEIGHT);

  const place = (event: PointerEvent) => {
    const box = (event.currentTarget as Element).getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top] as const;
  };
  function down(event: PointerEvent) {
    const [px, py] = place(event);
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    drag = { x0: px, y0: py, x1: px, y1: py };
  }
  function move(event: PointerEvent) {
    const [px, py] = place(event);
    if (drag) drag = { ...drag, x1: px, y1: py };
    else pointed = nearestDot(dots, px, py);
  }
  function up(event: PointerEvent) {
    if (!drag) return;
    const { x0, y0, x1, y1 } = drag;
    drag = null;
    if (Math.hypot(x1 - x0, y1 - y0) > 6) {
      brush = {
        ...brush,
        rectangle: {
          x: figures.x,
          y: figures.y,
          x0: x.invert(Math.min(x0, x1)),
          x1: x.invert(Math.max(x0, x1)),
          y0: y.invert(Math.max(y0, y1)),
          y1: y.invert(Math.min(y0, y1)),
        },
      };
      return;
    }
    take(nearestDot(dots, x1, y1), event.shiftKey);
  }
  function take(number: number | null, beside: boolean) {
    if (number === null) return;
    if (beside) void studies.beside(number);
    else void studies.choose(number);
  }
  /** From dot to dot by arrows; the first one leads to the chosen dot, or to the first that is named. */
  function onkeydown(event: KeyboardEvent) {
    const way = WAYS[event.key];
    if (event.key === "Enter") take(pointed, event.shiftKey);
    else if (!way || event.altKey || event.ctrlKey || event.metaKey || event.shiftKey) return;
    else pointed = pointedAt ? next(way, pointedAt) : ((chosenAt ?? named[0] ?? dots[0])?.number ?? null);
    event.preventDefault();
  }
  function next(way: (typeof WAYS)[string], from: Dot): number {
    const others = dots.filter((dot) => dot !== from);
    return others[nearestIn(way, from, others)]?.number ?? from.number;
  }

  const chosenAt = $derived(studies.chosen === null ? null : dotOf.get(studies.chosen));
  const pointedAt = $derived(pointed === null ? null : dotOf.get(pointed));
  const secondAt = $derived(studies.second ? dotOf.get(studies.second.number) : null);
</script>

<div class="chart" bind:clientWidth={width} style:height="{HEIGHT}px">
  <canvas {@attach paint} style:width="{width}px" style:height="{HEIGHT}px" aria-hidden="true"></canvas>
  <svg
    {width}
    height={HEIGHT}
    role="img"
    aria-label="Candidates: {shown.length} in view, {result.meets.length} meet every demand"
  >
    {#each y.ticks(5) as tick (tick)}
      <line x1={LEFT} x2={width - RIGHT} y1={y(tick)} y2={y(tick)} stroke="var(--line)" />
      <text x={LEFT - 6} y={y(tick) + 4} text-anchor="end" class="num">{fixed(tick, 0)}</text>
    {/each}
    {#each x.ticks(6) as tick (tick)}
      <text x={x(tick)} y={HEIGHT - BOTTOM + 16} text-anchor="middle" class="num">{fixed(tick, 0)}</text>
    {/each}
    <path d="M{LEFT} {TOP}V{HEIGHT - BOTTOM}H{width - RIGHT}" fill="none" stroke="var(--soft)" />
    <text x={width - RIGHT} y={HEIGHT - 4} text-anchor="end">{unitOf(figures.x)}</text>
    <text x={LEFT + 6} y={TOP + 8}>{unitOf(figures.y)}</text>
    <path d={lineThrough(line.map((p) => [p.x, p.y]))} fill="none" stroke="var(--ink)" stroke-width="1.400" />
    {#each line as point (point.number)}
      <circle cx={point.x} cy={point.y} r={point.radius + 2.2} fill="none" stroke="var(--ink)" stroke-width="1.400" />
    {/each}
    {#each named as point, i (point.number)}
      <text x={point.x - point.radius - 5} y={point.y - point.radius - 3} class="best" text-anchor="end">{i + 1}</text>
    {/each}
    {#if pointedAt}<circle
        cx={pointedAt.x}
        cy={pointedAt.y}
        r={pointedAt.radius + 4}
        fill="none"
        stroke="var(--ink)"
        stroke-width="2"
      />{/if}
    {#if chosenAt}<circle
        cx={chosenAt.x}
        cy={chosenAt.y}
        r="10"
        fill="none"
        stroke="var(--accent)"
        stroke-width="3"
      />{/if}
    {#if secondAt}<circle
        cx={secondAt.x}
        cy={secondAt.y}
        r="10"
        fill="none"
        stroke="var(--accent)"
        stroke-width="2"
        stroke-dasharray="4 3"
      />{/if}
    {#if drag}
      <rect
        x={Math.min(drag.x0, drag.x1)}
        y={Math.min(drag.y0, drag.y1)}
        width={Math.abs(drag.x1 - drag.x0)}
        height={Math.abs(drag.y1 - drag.y0)}
        fill="var(--accent)"
        fill-opacity="0.12"
        stroke="var(--accent)"
      />
    {/if}
  </svg>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions (arrows go from dot to dot) -->
  <div
    class="catch"
    role="application"
    tabindex="0"
    aria-label="Dots: arrows go from one to the next, Enter looks at it, Shift Enter puts it beside"
    data-testid="dots"
    onpointerdown={down}
    onpointermove={move}
    onpointerup={up}
    onpointerleave={() => (pointed = null)}
    onblur={() => (pointed = null)}
    {onkeydown}
  ></div>
</div>

<style>
  .chart {
    position: relative;
    margin-top: 6px;
  }
  canvas,
  svg,
  .catch {
    position: absolute;
    inset: 0;
  }
  text {
    font-size: 12px;
    fill: var(--soft);
  }
  text.best {
    font-weight: 700;
    fill: var(--ink);
  }
  .catch {
    cursor: crosshair;
    touch-action: none;
  }
</style>
