<script lang="ts">
  import { lineThrough, scaleOf } from "$lib/drawing/scale";
  import { fixed } from "$lib/units/format";

  export type XYLine = { name: string; points: number[][]; main?: boolean; dashed?: boolean };
  /** Curves over one axis each way, with the point where things work. */
  let {
    label,
    lines,
    point = null,
    xUnit,
    yUnit,
    xMost,
    yMost,
    mark = null,
    width = 336,
    height = 200,
  }: {
    label: string;
    lines: XYLine[];
    point?: number[] | null;
    xUnit: string;
    yUnit: string;
    xMost?: number;
    yMost?: number;
    mark?: { x: number; text: string } | null;
    width?: number;
    height?: number;
  } = $props();
  const LEFT = 38;
  const BOTTOM = 28;
  const TOP = 12;
  const RIGHT = 84;
  const every = $derived(lines.flatMap((line) => line.points));
  const farthest = $derived(xMost ?? Math.max(...every.map((p) => p[0]!), point?.[0] ?? 0, 1e-6));
  const within = $derived(every.filter((p) => p[0]! <= farthest));
  const most = $derived({
    x: farthest,
    y: yMost ?? Math.max(...within.map((p) => p[1]!), point?.[1] ?? 0, 1e-6) * 1.06,
  });
  const least = $derived(Math.min(...every.map((p) => p[0]!), point?.[0] ?? farthest, farthest));
  const x = $derived(scaleOf([least, most.x], [LEFT, width - RIGHT]));
  const y = $derived(scaleOf([0, most.y], [height - BOTTOM, TOP]));
  const shown = $derived((line: XYLine) => line.points.filter((p) => p[0]! <= most.x && p[1]! <= most.y));
  const path = $derived((line: XYLine) => lineThrough(shown(line).map((p) => [x(p[0]!), y(p[1]!)])));
  /** Names at the ends of their lines, moved apart where they would meet. */
  const names = $derived.by(() => {
    const ends = lines
      .map((line) => ({ line, end: shown(line).at(-1) }))
      .filter((item) => item.end)
      .map((item) => ({ ...item, at: y(item.end![1]!), left: x(item.end![0]!) }))
      .sort((a, b) => a.at - b.at);
    let last = -Infinity;
    return ends.map((item) => {
      last = Math.max(item.at, last + 14);
      return { ...item, at: last };
    });
  });
</script>

<svg {width} {height} role="img" aria-label={label}>
  {#each y.ticks(4) as tick (tick)}
    <line x1={LEFT} x2={width - RIGHT} y1={y(tick)} y2={y(tick)} stroke="var(--line)" />
    <text x={LEFT - 5} y={y(tick) + 4} text-anchor="end" class="num">{fixed(tick, tick % 1 ? 1 : 0)}</text>
  {/each}
  {#each x.ticks(4) as tick (tick)}
    <text x={x(tick)} y={height - 12} text-anchor="middle" class="num">{fixed(tick, tick % 1 ? 1 : 0)}</text>
  {/each}
  <path d="M{LEFT} {TOP}V{height - BOTTOM}H{width - RIGHT}" fill="none" stroke="var(--soft)" />
  <text x={LEFT - 5} y={TOP - 2} text-anchor="end">{yUnit}</text>
  <text x={width - RIGHT + 6} y={height - 12}>{xUnit}</text>
  {#if mark}
    <line x1={x(mark.x)} x2={x(mark.x)} y1={TOP} y2={height - BOTTOM} stroke="var(--accent)" stroke-dasharray="3 3" />
    <text x={x(mark.x) + 4} y={TOP + 9} class="mark">{mark.text}</text>
  {/if}
  {#each lines as line, i (i)}
    <path
      d={path(line)}
      fill="none"
      stroke={line.main ? "var(--ink)" : "var(--soft)"}
      stroke-width={line.main ? 2.4 : 1.5}
      stroke-dasharray={line.dashed ? "5 4" : undefined}
    />
  {/each}
  {#each names as item, i (i)}
    <text x={item.left + 5} y={item.at + 4} class:strong={item.line.main}>{item.line.name}</text>
  {/each}
  {#if point}<circle cx={x(point[0]!)} cy={y(point[1]!)} r="5.500" fill="var(--accent)" stroke="var(--panel)" />{/if}
</svg>

<style>
  text {
    font-size: 12px;
    fill: var(--soft);
  }
  .strong {
    fill: var(--ink);
    font-weight: 650;
  }
  .mark {
    fill: var(--accent);
  }
</style>
