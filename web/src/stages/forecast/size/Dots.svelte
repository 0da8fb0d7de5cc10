<script lang="ts">
  import type { Result, Studies } from "$lib/state/study.svelte";
  import { fixed, level } from "$lib/units/format";
  import { between, spanOf, ticks, type Span } from "$lib/drawing/scale";
  import { nearestDot, paintDots, SHAPES, type Dot } from "./shapes";
  import { wordsOf, type Brush, type Figure } from "./filter";
  import KeepOptions from "./KeepOptions.svelte";

  /** Candidates as dots: one figure over another, size is height, shape is kind; drag to keep a rectangle. */
  let {
    studies,
    result,
    shown,
    names,
    brush = $bindable(),
  }: { studies: Studies; result: Result; shown: number[]; names: Record<string, string>; brush: Brush } = $props();
  const HEIGHT = 330;
  const LEFT = 44;
  const RIGHT = 12;
  const TOP = 12;
  const BOTTOM = 34;
  const FIGURES: [Figure, string, string][] = [
    ["level_dba", "sound", "dBA"],
    ["margin_k", "margin", "K"],
    ["height_mm", "stack", "mm"],
    ["mass_g", "mass", "g"],
    ["price", "price", ""],
  ];
  let width = $state(440);
  let chosenX = $state<Figure | null>(null);
  let yFigure = $state<Figure>("margin_k");
  let kind = $state("");
  let drag = $state<{ x0: number; y0: number; x1: number; y1: number } | null>(null);
  let pointed = $state<number | null>(null);

  const known = $derived(FIGURES.filter(([figure]) => result.columns[figure]?.some((v) => v !== null)));
  /** Sound lies across, or what differs first where every candidate is silent. */
  const xFigure = $derived(
    chosenX ?? known.find(([figure]) => figure !== "margin_k" && differs(figure))?.[0] ?? "level_dba",
  );
  const differs = (figure: Figure) => {
    const [low, high] = span(figure);
    return high - low > 1.5;
  };
  const shapeAxis = $derived.by(() => {
    const fit = studies.axes.filter((axis) => axis.options.length > 1 && axis.options.length <= SHAPES);
    return (fit.find((axis) => axis.address === kind) ?? fit.find((a) => a.address.endsWith("class")) ?? fit[0])
      ?.address;
  });
  const shapeAt = $derived(studies.axes.findIndex((axis) => axis.address === shapeAxis));
  const meets = $derived(new Set(result.meets));
  const span = (figure: Figure) => spanOf(result.columns[figure] ?? []);
  const xs = $derived(span(xFigure));
  const ys: Span = $derived.by(() => {
    const [low, high] = span(yFigure);
    // far below every demand nothing is decided: the scale keeps what matters in view
    return [yFigure === "margin_k" ? Math.max(low, high - 60) : low, high];
  });
  const across: Span = $derived([LEFT, width - RIGHT]);
  const upwards: Span = [HEIGHT - BOTTOM, TOP];
  const x = $derived((v: number) => between(v, xs, across));
  const y = $derived((v: number) => between(v, ys, upwards));
  const heights = $derived(span("height_mm"));
  const dots: Dot[] = $derived(
    shown.flatMap((number) => {
      const a = result.columns[xFigure]?.[number];
      const b = result.columns[yFigure]?.[number];
      if (a == null || b == null || b < ys[0]) return [];
      const height = result.columns["height_mm"]?.[number];
      const radius = height == null ? 3.5 : between(height, heights, [2.6, 6]);
      const shape = shapeAt < 0 ? 0 : studies.optionsOf(number)[shapeAt]!;
      return [{ number, x: x(a), y: y(b), radius, shape, meets: meets.has(number) }];
    }),
  );
  const dotOf = $derived(new Map(dots.map((dot) => [dot.number, dot])));
  const front = $derived(result.undominated.flatMap((number) => dotOf.get(number) ?? []).sort((a, b) => a.x - b.x));
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
      const valueX = (px: number) => between(px, across, xs);
      const valueY = (py: number) => between(py, upwards, ys);
      brush = {
        ...brush,
        rectangle: {
          x: xFigure,
          y: yFigure,
          x0: valueX(Math.min(x0, x1)),
          x1: valueX(Math.max(x0, x1)),
          y0: valueY(Math.max(y0, y1)),
          y1: valueY(Math.min(y0, y1)),
        },
      };
      return;
    }
    const found = nearestDot(dots, x1, y1);
    if (found === null) return;
    if (event.shiftKey) void studies.beside(found);
    else void studies.choose(found);
  }

  const unitOf = (figure: Figure) => FIGURES.find(([f]) => f === figure)?.[2] ?? "";
  const chosenAt = $derived(studies.chosen === null ? null : dotOf.get(studies.chosen));
  const secondAt = $derived(studies.second ? dotOf.get(studies.second.number) : null);
</script>

<section class="panel" aria-label="Candidates as dots">
  <p class="flex flex-wrap items-center gap-2 text-sm">
    <select class="field" aria-label="Upwards" bind:value={yFigure}>
      {#each known as [figure, name, unit] (figure)}<option value={figure}>{name}{unit ? `, ${unit}` : ""}</option
        >{/each}
    </select>
    over
    <select
      class="field"
      aria-label="Across"
      value={xFigure}
      onchange={(e) => (chosenX = e.currentTarget.value as Figure)}
    >
      {#each known as [figure, name, unit] (figure)}<option value={figure}>{name}{unit ? `, ${unit}` : ""}</option
        >{/each}
    </select>
    {#if shapeAxis}
      shape is
      <select
        class="field max-w-72"
        aria-label="Shape is"
        value={shapeAxis}
        onchange={(e) => (kind = e.currentTarget.value)}
      >
        {#each studies.axes.filter((a) => a.options.length > 1 && a.options.length <= SHAPES) as axis (axis.address)}
          <option value={axis.address}>{names[axis.address] ?? axis.address}</option>
        {/each}
      </select>
    {/if}
    <span class="soft">size is height</span>
    {#if brush.rectangle}<button class="button" onclick={() => (brush = { ...brush, rectangle: null })}>Whole</button
      >{/if}
  </p>
  <div class="chart" bind:clientWidth={width} style:height="{HEIGHT}px">
    <canvas {@attach paint} style:width="{width}px" style:height="{HEIGHT}px" aria-hidden="true"></canvas>
    <svg
      {width}
      height={HEIGHT}
      role="img"
      aria-label="Candidates: {shown.length} in view, {result.meets.length} meet every demand"
    >
      {#each ticks(ys, 5) as tick (tick)}
        <line x1={LEFT} x2={width - RIGHT} y1={y(tick)} y2={y(tick)} stroke="var(--line)" />
        <text x={LEFT - 6} y={y(tick) + 4} text-anchor="end" class="num">{fixed(tick, 0)}</text>
      {/each}
      {#each ticks(xs, 6) as tick (tick)}
        <text x={x(tick)} y={HEIGHT - BOTTOM + 16} text-anchor="middle" class="num">{fixed(tick, 0)}</text>
      {/each}
      <path d="M{LEFT} {TOP}V{HEIGHT - BOTTOM}H{width - RIGHT}" fill="none" stroke="var(--soft)" />
      <text x={width - RIGHT} y={HEIGHT - 4} text-anchor="end">{unitOf(xFigure)}</text>
      <text x={LEFT + 6} y={TOP + 8}>{unitOf(yFigure)}</text>
      <path
        d={front.map((p, i) => `${i ? "L" : "M"}${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join("")}
        fill="none"
        stroke="var(--ink)"
        stroke-width="1.400"
      />
      {#each front as point (point.number)}
        <circle cx={point.x} cy={point.y} r={point.radius + 2.2} fill="none" stroke="var(--ink)" stroke-width="1.400" />
      {/each}
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
      <rect
        x="0"
        y="0"
        {width}
        height={HEIGHT}
        fill="transparent"
        class="catch"
        role="presentation"
        data-testid="dots"
        onpointerdown={down}
        onpointermove={move}
        onpointerup={up}
        onpointerleave={() => (pointed = null)}
      />
    </svg>
  </div>
  <p class="soft told text-sm">
    {pointed === null
      ? `${shown.length.toLocaleString("en")} in view. Filled ones meet every demand, ringed ones nothing beats. Click looks at one, Shift-click puts a second beside it, dragging keeps a rectangle.`
      : `${wordsOf(studies, pointed)}: ${fixed(result.columns["margin_k"]?.[pointed])} K, ${level(result.columns["level_dba"]?.[pointed])}, ${fixed(result.columns["height_mm"]?.[pointed], 0)} mm`}
  </p>
  <KeepOptions {studies} {names} {shapeAxis} bind:brush />
</section>

<style>
  .chart {
    position: relative;
    margin-top: 6px;
  }
  canvas,
  svg {
    position: absolute;
    inset: 0;
  }
  text {
    font-size: 12px;
    fill: var(--soft);
  }
  .catch {
    cursor: crosshair;
    touch-action: none;
  }
  .told {
    min-height: 2.6em;
  }
</style>
