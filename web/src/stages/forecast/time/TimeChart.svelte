<script lang="ts">
  import { STOPS } from "$lib/drawing/colour";
  import { lineThrough, scaleOf, spanOf } from "$lib/drawing/scale";
  import { statusColour } from "$lib/ui/status";
  import { fixed } from "$lib/units/format";
  import type { Measured } from "./measured";
  import { apart, at, type Curve, type InTime } from "./time";

  /** Temperatures as bands over minutes, tinted by how warm they are; limits across, phases above, sound below. */
  let {
    told,
    over = null,
    measured = [],
    minute = $bindable(),
    chosen = $bindable(),
  }: {
    told: InTime;
    over?: InTime | null;
    measured?: Measured[];
    minute: number;
    chosen: string;
  } = $props();

  const LEFT = 44;
  const RIGHT = 208;
  const TOP = 34;
  const HEIGHT = 300;
  const silent = $derived(Math.max(...told.sound_dba) <= 0 && told.ceiling_dba === null);
  const SOUND = $derived(silent ? 0 : 62);
  let width = $state(900);
  const plotRight = $derived(Math.max(width - RIGHT, LEFT + 120));
  const narrow = $derived(width < 560);
  const right = $derived(narrow ? width - 8 : plotRight);

  const drawn = $derived(told.curves.filter((curve) => curve.kind !== "body" || curve.address === chosen));
  const shown = $derived(new Set(drawn.map((curve) => curve.address)));
  const last = $derived(told.minutes.at(-1) ?? 0);
  const limit = $derived(told.curves.find((curve) => curve.address === chosen)?.limit_c ?? null);
  const span = $derived(
    spanOf(
      [
        ...drawn.flatMap((curve) => [...(curve.low_c ?? curve.c), ...(curve.high_c ?? curve.c)]),
        ...(limit !== null ? [limit] : []),
        ...measured.flatMap((one) => (shown.has(one.address) ? one.points.map(([, c]) => c) : [])),
      ],
      2,
    ),
  );
  const x = $derived(scaleOf([told.minutes[0] ?? -5, told.minutes.at(-1) ?? 90], [LEFT, right]));
  const y = $derived(scaleOf(span, [TOP + HEIGHT, TOP]));
  const sounds = $derived([...told.sound_dba, ...(told.ceiling_dba === null ? [] : [told.ceiling_dba])]);
  const soundTop = $derived(TOP + HEIGHT + (silent ? 12 : 30));
  const sy = $derived(scaleOf(spanOf(sounds, 3), [soundTop + SOUND, soundTop]));
  const bottom = $derived(soundTop + SOUND);

  const line = (values: readonly number[], scale: (v: number) => number) =>
    lineThrough(values.map((value, i) => [x(told.minutes[i]!), scale(value)]));
  const band = (low: readonly number[], high: readonly number[], scale: (v: number) => number) =>
    `${line(high, scale)}L${lineThrough(
      low.map((value, i) => [x(told.minutes[i]!), scale(value)] as [number, number]).reverse(),
    ).slice(1)}Z`;
  const overLine = (curve: Curve) =>
    over
      ? lineThrough(
          over.minutes.map((m, i) => [x(m), y(curve.c[i]!)] as [number, number]).filter(([px]) => px <= right + 0.5),
        )
      : "";
  const labels = $derived(
    apart(
      drawn.map((curve) => y(curve.c.at(-1)!)),
      15,
      TOP + HEIGHT,
    ),
  );
  const dimmed = (curve: Curve) => chosen !== "" && curve.address !== chosen && drawn.length > 6;

  function scrub(event: PointerEvent) {
    const box = (event.currentTarget as SVGElement).getBoundingClientRect();
    const wanted = x.invert(((event.clientX - box.left) / box.width) * width);
    minute = Math.round(Math.min(Math.max(wanted, 0), told.minutes.at(-1) ?? 0));
  }
  function keys(event: KeyboardEvent) {
    const end = told.minutes.at(-1) ?? 0;
    const by = event.shiftKey ? 10 : 1;
    if (event.key === "ArrowRight") minute = Math.min(minute + by, end);
    else if (event.key === "ArrowLeft") minute = Math.max(minute - by, 0);
    else if (event.key === "Home") minute = 0;
    else if (event.key === "End") minute = end;
    else return;
    event.preventDefault();
  }
</script>

<div class="chart" bind:clientWidth={width}>
  <svg
    {width}
    height={bottom + 26}
    viewBox="0 0 {width} {bottom + 26}"
    role="slider"
    aria-label="Minute after load on"
    aria-valuemin="0"
    aria-valuemax={told.minutes.at(-1)}
    aria-valuenow={minute}
    aria-valuetext="{minute} min"
    tabindex="0"
    onkeydown={keys}
    onpointerdown={(event) => {
      (event.currentTarget as SVGElement).setPointerCapture(event.pointerId);
      scrub(event);
    }}
    onpointermove={(event) => event.buttons && scrub(event)}
  >
    <defs>
      <linearGradient id="warmth" gradientUnits="userSpaceOnUse" x1="0" x2="0" y1={TOP + HEIGHT} y2={TOP}>
        {#each STOPS as [offset, colour] (offset)}<stop {offset} stop-color={colour} />{/each}
      </linearGradient>
      <pattern id="over" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <path d="M0 0v7" stroke="var(--too-hot)" stroke-width="1.600" />
      </pattern>
    </defs>
    {#each told.phases as phase (phase.name + phase.begins_min)}
      {@const from = x(phase.begins_min)}
      {@const to = x(phase.ends_min)}
      <path d="M{from} 6v10M{from} 11H{to}M{to} 6v10" class="phase" />
      {#if to - from > 40}
        <text x={(from + to) / 2} y="14" class="name" text-anchor="middle"
          ><tspan class="back">{` ${phase.name} `}</tspan></text
        >
      {/if}
    {/each}
    {#each y.ticks(5) as tick (tick)}
      <path d="M{LEFT} {y(tick)}H{right}" class="grid" />
      <text x={LEFT - 8} y={y(tick) + 4} class="tick num" text-anchor="end">{tick}</text>
    {/each}
    <text x={LEFT - 8} y={TOP - 8} class="tick" text-anchor="end">°C</text>
    {#each drawn as curve (curve.address)}
      {#if curve.low_c && curve.high_c}
        <path
          d={band(curve.low_c, curve.high_c, y)}
          fill="url(#warmth)"
          class="band"
          class:dimmed={dimmed(curve)}
          data-band={curve.address}
        />
      {/if}
    {/each}
    {#if limit !== null}
      {@const curve = told.curves.find((one) => one.address === chosen)!}
      {#if curve.high_c && Math.max(...curve.high_c) > limit}
        <clipPath id="above"
          ><rect x={LEFT} y={TOP} width={right - LEFT} height={Math.max(y(limit) - TOP, 0)} /></clipPath
        >
        <path d={band(curve.low_c ?? curve.c, curve.high_c, y)} fill="url(#over)" clip-path="url(#above)" />
      {/if}
      <path d="M{LEFT} {y(limit)}H{right}" class="limit" />
      <text x={right - 6} y={y(limit) - 5} class="name" text-anchor="end"
        >limit of {curve.name} <tspan class="num">{fixed(limit, 0)} °C</tspan></text
      >
    {/if}
    {#if over}
      {#each over.curves.filter((curve) => drawn.some((one) => one.address === curve.address)) as curve (curve.address)}
        <path d={overLine(curve)} class="old" />
      {/each}
    {/if}
    {#each drawn as curve (curve.address)}
      <path
        d={line(curve.c, y)}
        class="line"
        class:fluid={curve.kind !== "place"}
        class:own={curve.address === chosen}
        opacity={dimmed(curve) ? 0.45 : 1}
      />
    {/each}
    {#each measured.filter((one) => drawn.some((curve) => curve.address === one.address)) as one (one.address)}
      <path
        d={lineThrough(one.points.filter(([m]) => m <= last).map(([m, c]) => [x(m), y(c)] as [number, number]))}
        class="measured"
        class:own={one.address === chosen}
        opacity={chosen !== "" && one.address !== chosen && drawn.length > 6 ? 0.45 : 1}
        data-measured={one.address}
      />
    {/each}
    <path d="M{x(0)} {TOP}V{bottom}" class="on" />
    {#if !silent}
      {#each sy.ticks(2) as tick (tick)}
        <text x={LEFT - 8} y={sy(tick) + 4} class="tick num" text-anchor="end">{tick}</text>
      {/each}
      {#if told.sound_low_dba && told.sound_high_dba}
        <path d={band(told.sound_low_dba, told.sound_high_dba, sy)} fill="var(--soft)" opacity="0.25" />
      {/if}
      {#if told.ceiling_dba !== null}<path d="M{LEFT} {sy(told.ceiling_dba)}H{right}" class="limit" />{/if}
      <path d={line(told.sound_dba, sy)} class="line own" />
    {/if}
    {#each x.ticks(narrow ? 4 : 8) as tick (tick)}
      <path d="M{x(tick)} {bottom}v5" class="phase" />
      <text x={x(tick)} y={bottom + 19} class="tick num" text-anchor="middle">{tick}</text>
    {/each}
    <text x={right + 19} y={bottom + 19} class="tick">min</text>
    <path d="M{LEFT} {bottom}H{right}" class="phase" />
    <g class="now">
      <path d="M{x(minute)} {TOP - 6}V{bottom}" />
      {#each drawn as curve (curve.address)}
        {@const value = at(told.minutes, curve.c, minute)}
        {#if value !== null}<circle cx={x(minute)} cy={y(value)} r="3.500" />{/if}
      {/each}
      <rect x={x(minute) - 27} y={bottom + 5} width="54" height="19" rx="9.500" />
      <text x={x(minute)} y={bottom + 19} text-anchor="middle" class="num">{minute} min</text>
    </g>
    {#if !narrow}
      {#each drawn as curve, i (curve.address)}
        <path d="M{right} {y(curve.c.at(-1)!)}L{right + 10} {labels[i]}h5" class="phase" />
        <text
          x={right + 19}
          y={labels[i]! + 4.5}
          class="label"
          class:own={curve.address === chosen}
          style:fill={curve.status && curve.status !== "holds" ? statusColour(curve.status) : null}
        >
          <tspan class="num">{fixed(curve.c.at(-1)!)}</tspan>
          {curve.name.length > 18 ? `${curve.name.slice(0, 17)}…` : curve.name}
        </text>
        <!-- the row is as wide as its name: a thin target would be missed -->
        <rect
          x={right + 16}
          y={labels[i]! - 8}
          width={RIGHT - 24}
          height="15"
          fill="transparent"
          role="presentation"
          onpointerdown={(event) => {
            event.stopPropagation();
            chosen = chosen === curve.address ? "" : curve.address;
          }}
        />
      {/each}
      {#if !silent}
        <text x={right + 19} y={sy(told.sound_dba.at(-1)!) + 4.5} class="label own">
          <tspan class="num">{fixed(told.sound_dba.at(-1)!)}</tspan> dBA
        </text>
        {#if told.ceiling_dba !== null && Math.abs(sy(told.ceiling_dba) - sy(told.sound_dba.at(-1)!)) > 14}
          <text x={right + 19} y={sy(told.ceiling_dba) + 4.5} class="tick"
            >ceiling <tspan class="num">{fixed(told.ceiling_dba, 0)}</tspan></text
          >
        {/if}
      {/if}
    {/if}
  </svg>
</div>

<style>
  .chart {
    overflow: hidden;
  }
  svg {
    display: block;
    cursor: ew-resize;
    touch-action: pan-y;
    user-select: none;
  }
  .band {
    opacity: 0.34;
  }
  .band.dimmed {
    opacity: 0.12;
  }
  .grid {
    stroke: var(--line);
    stroke-dasharray: 2 4;
    fill: none;
  }
  .phase {
    stroke: var(--soft);
    fill: none;
  }
  .limit {
    stroke: var(--ink);
    stroke-width: 1.4;
    fill: none;
  }
  .on {
    stroke: var(--soft);
    stroke-dasharray: 1 3;
    fill: none;
  }
  .line {
    stroke: var(--ink);
    stroke-width: 1.5;
    fill: none;
  }
  .line.fluid {
    stroke-dasharray: 5 3;
  }
  .line.own {
    stroke-width: 2.6;
  }
  .old {
    stroke: var(--accent);
    stroke-width: 1.3;
    stroke-dasharray: 1 3;
    fill: none;
  }
  .measured {
    stroke: var(--accent);
    stroke-width: 1.6;
    fill: none;
  }
  .measured.own {
    stroke-width: 2.4;
  }
  .now path {
    stroke: var(--accent);
    stroke-width: 2;
  }
  .now circle {
    fill: var(--accent);
  }
  .now rect {
    fill: var(--accent-fill);
  }
  .now text {
    fill: var(--accent-ink);
    font-size: 12px;
    font-weight: 700;
  }
  .tick,
  .name {
    fill: var(--soft);
    font-size: 12.5px;
  }
  .name {
    fill: var(--ink);
    paint-order: stroke;
    stroke: var(--ground);
    stroke-width: 6px;
  }
  .label {
    fill: var(--ink);
    font-size: 13.5px;
  }
  .label.own {
    font-weight: 700;
  }
</style>
