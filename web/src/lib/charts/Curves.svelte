<script lang="ts">
  import uPlot from "uplot";
  import "uplot/dist/uPlot.min.css";

  export type Line = { name: string; minutes: number[]; values: (number | null)[] };
  /** Temperatures over minutes with the load window shaded; each line keeps its own samples. */
  let {
    lines,
    from,
    to,
    unit = "°C",
    height = 270,
  }: { lines: Line[]; from: number; to: number; unit?: string; height?: number } = $props();
  let width = $state(600);
  const TONES = [
    "#54708a",
    "#a83a2a",
    "#256e5e",
    "#b07a1e",
    "#7b5ea7",
    "#3d8ea8",
    "#8a6d4b",
    "#c2557a",
    "#5f7f2f",
    "#444c55",
  ];

  const aligned = $derived(uPlot.join(lines.map((line) => [line.minutes, line.values] as uPlot.AlignedData)));

  const series = $derived(
    lines.map((line, i) => ({
      label: line.name,
      stroke: TONES[i % TONES.length]!,
      width: 1.6,
      spanGaps: true,
      pxAlign: 0,
      points: { show: false },
    })),
  );

  /** The minutes that count, behind the curves. */
  function window(chart: uPlot, tone: string) {
    const [x0, x1] = [chart.valToPos(from, "x", true), chart.valToPos(to, "x", true)];
    chart.ctx.fillStyle = tone;
    chart.ctx.fillRect(x0, chart.bbox.top, x1 - x0, chart.bbox.height);
  }

  function plot(node: HTMLElement) {
    const css = getComputedStyle(node);
    const axis = {
      stroke: css.color,
      font: `12px ${css.fontFamily}`,
      grid: { stroke: css.getPropertyValue("--line"), width: 1 },
    };
    const options: uPlot.Options = {
      width,
      height,
      scales: { x: { time: false } },
      legend: { live: false },
      cursor: { drag: { x: true, y: false } },
      series: [{ label: "min" }, ...series],
      axes: [
        { ...axis, label: "minutes", labelSize: 18, size: 34 },
        { ...axis, label: unit, labelSize: 16, size: 44 },
      ],
      hooks: { drawClear: [(chart) => window(chart, css.getPropertyValue("--sunk"))] },
    };
    const chart = new uPlot(options, aligned, node);
    return () => chart.destroy();
  }
</script>

<figure bind:clientWidth={width} aria-label="Measured curves over minutes" data-testid="curves">
  {#key [aligned, width, from, to]}<div {@attach plot}></div>{/key}
</figure>

<style>
  figure :global(.u-legend) {
    font-size: 12.5px;
    text-align: left;
  }
</style>
