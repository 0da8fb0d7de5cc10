<script lang="ts">
  import uPlot from "uplot";
  import "uplot/dist/uPlot.min.css";
  import { apart, short } from "$lib/drawing/words";

  export type Line = { name: string; minutes: number[]; values: (number | null)[] };
  /** One quantity over minutes with the load window shaded; each line keeps its own samples, its name at its end. */
  let {
    lines,
    from,
    to,
    unit = "°C",
    height = 270,
    onwindow,
  }: {
    lines: Line[];
    from: number;
    to: number;
    unit?: string;
    height?: number;
    /** the load window was moved by its handles, or by their arrow keys; minutes */
    onwindow?: (from: number, to: number) => void;
  } = $props();
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
  function window(chart: uPlot, [from, to]: Load, tone: string) {
    const [x0, x1] = [chart.valToPos(from, "x", true), chart.valToPos(to, "x", true)];
    chart.ctx.fillStyle = tone;
    chart.ctx.fillRect(x0, chart.bbox.top, x1 - x0, chart.bbox.height);
  }

  const NAMES_WIDE = 128;
  const NAME_HIGH = 14;
  /** Names at the ends of their lines, moved apart where they would meet. */
  function names(chart: uPlot, lines: Line[], css: CSSStyleDeclaration) {
    const ratio = devicePixelRatio;
    const ends = lines.flatMap((line, i) => {
      const last = line.values.findLast((value) => value !== null);
      return last == null
        ? []
        : [{ name: line.name, tone: TONES[i % TONES.length]!, y: chart.valToPos(last, "y", true) }];
    });
    const left = chart.bbox.left + chart.bbox.width + 6 * ratio;
    chart.ctx.font = `${12 * ratio}px ${css.fontFamily}`;
    chart.ctx.textAlign = "left";
    chart.ctx.textBaseline = "middle";
    ends.sort((a, b) => a.y - b.y);
    const at = apart(
      ends.map((end) => end.y),
      NAME_HIGH * ratio,
      chart.bbox.top + chart.bbox.height,
    );
    ends.forEach((end, i) => {
      chart.ctx.fillStyle = end.tone;
      chart.ctx.fillRect(left, at[i]! - 2 * ratio, 8 * ratio, 4 * ratio);
      chart.ctx.fillStyle = css.color;
      chart.ctx.fillText(short(end.name, NAMES_WIDE - 22, 6.2), left + 12 * ratio, at[i]!);
    });
  }

  type Load = [from: number, to: number];

  /** A chart outlives what it was drawn from by a frame: it keeps its own. */
  function plot(node: HTMLElement) {
    const css = getComputedStyle(node);
    const [load, drawn, moved] = [[from, to] as Load, lines, onwindow];
    const axis = {
      stroke: css.color,
      font: `12px ${css.fontFamily}`,
      labelFont: `12px ${css.fontFamily}`,
      grid: { stroke: css.getPropertyValue("--line"), width: 1 },
    };
    const options: uPlot.Options = {
      width,
      height,
      scales: { x: { time: false } },
      legend: { show: false },
      padding: [8, NAMES_WIDE, 0, 0],
      cursor: { drag: { x: true, y: false } },
      series: [{ label: "min" }, ...series],
      axes: [
        { ...axis, label: "minutes", labelSize: 18, size: 34 },
        { ...axis, label: unit, labelSize: 16, size: 44 },
      ],
      hooks: {
        drawClear: [(chart) => window(chart, load, css.getPropertyValue("--sunk"))],
        draw: [(chart) => names(chart, drawn, css)],
        ready: [(chart) => handles(chart, load, moved)],
      },
    };
    const chart = new uPlot(options, aligned, node);
    return () => chart.destroy();
  }

  function handles(chart: uPlot, [from, to]: Load, onwindow: ((from: number, to: number) => void) | undefined) {
    if (!onwindow) return;
    handle(chart, "start of the load", from, (minute) => onwindow(Math.min(minute, to - LEAST_MIN), to));
    handle(chart, "end of the load", to, (minute) => onwindow(from, Math.max(minute, from + LEAST_MIN)));
  }

  const LEAST_MIN = 1;
  /** A line that is dragged along the minutes, or moved by arrows (1 min, with Shift 0.1). */
  function handle(chart: uPlot, label: string, minute: number, moved: (minute: number) => void) {
    const grip = document.createElement("div");
    const place = (at: number) => (grip.style.left = `${chart.valToPos(at, "x")}px`);
    grip.className = "grip";
    grip.tabIndex = 0;
    grip.setAttribute("role", "slider");
    grip.setAttribute("aria-label", label);
    grip.setAttribute("aria-valuenow", minute.toFixed(1));
    grip.setAttribute("aria-valuetext", `${minute.toFixed(1)} min`);
    const under = (event: PointerEvent) => chart.posToVal(event.clientX - chart.over.getBoundingClientRect().left, "x");
    grip.onpointerdown = (event) => {
      event.stopPropagation();
      grip.setPointerCapture(event.pointerId);
      grip.onpointermove = (move) => place(under(move));
      grip.onpointerup = (end) => {
        grip.onpointermove = grip.onpointerup = null;
        moved(Math.max(under(end), 0));
      };
    };
    grip.onmousedown = (event) => event.stopPropagation();
    grip.onkeydown = (event) => {
      const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
      if (!by) return;
      event.preventDefault();
      event.stopPropagation();
      moved(Math.max(minute + by * (event.shiftKey ? 0.1 : 1), 0));
    };
    chart.over.append(grip);
    place(minute);
  }
</script>

<figure
  bind:clientWidth={width}
  role="img"
  aria-label="Measured over minutes, {unit}: {lines.map((line) => line.name).join(', ')}"
  data-testid="curves"
>
  {#key [aligned, width, from, to]}<div {@attach plot}></div>{/key}
</figure>

<style>
  figure :global(.grip) {
    position: absolute;
    top: 0;
    bottom: 0;
    width: 13px;
    margin-left: -6px;
    cursor: ew-resize;
    touch-action: none;
    background: linear-gradient(to right, transparent 5px, var(--accent) 5px, var(--accent) 8px, transparent 8px);
  }
  figure :global(.grip:focus-visible) {
    outline: 2px solid var(--accent);
  }
</style>
