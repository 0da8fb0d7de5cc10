<script lang="ts">
  import { scaleOf } from "$lib/drawing/scale";
  import { fixed } from "$lib/units/format";
  import { toneOf, type StackFit } from "./words";

  /** Two lanes along one millimetre ruler: the stack as it is drawn, and the trial beneath it. */
  let { fit, trial = null, endsAt }: { fit: StackFit; trial?: StackFit | null; endsAt: string } = $props();
  let width = $state(640);
  const LEFT = 74;
  const RIGHT = 92;
  const HIGH = 56;
  const most = $derived(Math.max(fit.gap_mm, fit.takes_mm ?? 0, trial?.takes_mm ?? 0, trial?.gap_mm ?? 0) * 1.06);
  const x = $derived(scaleOf([0, most], [LEFT, Math.max(width - RIGHT, LEFT + 120)]));
  const ticks = $derived(Array.from({ length: Math.floor(most) + 1 }, (_, i) => i));
  const step = $derived([5, 10, 20, 50, 100].find((size) => x(size) - x(0) > 44) ?? 100);
  const fine = $derived(x(1) - x(0) > 3);
  const lanes = $derived([
    { fit, top: 24, label: "As drawn", tone: "var(--ink)" },
    ...(trial ? [{ fit: trial, top: 24 + HIGH + 38 + 22, label: "Trial", tone: "var(--accent-text)" }] : []),
  ]);
  const height = $derived(24 + HIGH + 38 + (trial ? 22 + HIGH + 22 : 0));
  const said = $derived(
    `${fit.name}: ${fit.standing.map((item) => `${item.name} ${fixed(item.thickness_mm)} mm`).join(", ")}; ` +
      (fit.left_mm === null ? "unknown" : `${fixed(fit.left_mm)} mm left of ${fixed(fit.gap_mm)}`),
  );
  /** where a cumulative figure is written: not over the one before it */
  function figures(lane: StackFit): { at: number; text: string; from: number; to: number }[] {
    let last = -Infinity;
    return lane.standing.flatMap((item) => {
      const at = x(item.to_mm);
      const written = at - last > 58;
      if (!written) return [];
      last = at;
      return [
        {
          at,
          text: `${fixed(item.to_mm)} ± ${fixed(item.half_mm)}`,
          from: x(item.to_mm - item.half_mm),
          to: x(item.to_mm + item.half_mm),
        },
      ];
    });
  }
  const short = (name: string, room: number) => {
    const fits = Math.floor(room / 7);
    return fits < 3 ? "" : name.length <= fits ? name : `${name.slice(0, fits - 1)}…`;
  };
</script>

<div bind:clientWidth={width}>
  <svg {width} {height} role="img" aria-label={said}>
    <defs>
      <pattern id="over" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="6" height="6" fill="var(--panel)" /><path d="M0 0V6" stroke="var(--too-hot)" stroke-width="2.4" />
      </pattern>
      <pattern id="beyond" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
        <rect width="7" height="7" fill="var(--panel)" /><path d="M0 0V7" stroke="var(--hatch)" stroke-width="1.6" />
      </pattern>
    </defs>
    {#each lanes as lane (lane.label)}
      {@const end = x(lane.fit.gap_mm)}
      {@const tone = toneOf(lane.fit.says)}
      <text x="0" y={lane.top + 22} class="lane" fill={lane.tone}>{lane.label}</text>
      <text x="0" y={lane.top + 40} class="small num">{fixed(lane.fit.gap_mm)} mm</text>
      <rect x={end} y={lane.top - 4} width={RIGHT} height={HIGH + 8} fill="url(#beyond)" />
      <text x={end + 10} y={lane.top + HIGH / 2 + 4} class="beyond">{short(endsAt, RIGHT - 14)}</text>
      {#each lane.fit.standing as item, i (i)}
        {@const from = x(item.from_mm)}
        {@const room = Math.max(x(item.to_mm) - from, 1)}
        <g class="item" class:guess={!["measured", "datasheet", "stated"].includes(item.origin)}>
          <rect x={from} y={lane.top} width={room} height={HIGH} stroke={lane.tone} />
          {#if item.kind === "radiator"}
            {#each [0.22, 0.5, 0.78] as row (row)}
              <rect
                class="tube"
                x={from + 5}
                y={lane.top + HIGH * row - 2}
                width={Math.max(room - 10, 0)}
                height="4"
                rx="2"
              />
            {/each}
          {:else if item.kind === "fan"}
            <path
              class="blade"
              d="M{from + 4} {lane.top + 8}q{room / 2 - 4} 8 {room - 8} 0M{from + 4} {lane.top + HIGH - 8}q{room / 2 -
                4} -8 {room - 8} 0"
            />
          {:else if room > 6}
            <rect x={from + 1} y={lane.top + 1} width={room - 2} height={HIGH - 2} fill="var(--sunk)" stroke="none" />
          {/if}
          {#if room > 34}
            <rect
              x={from + room / 2 - short(item.name, room - 6).length * 3.7 - 4}
              y={lane.top + HIGH / 2 - 10}
              width={short(item.name, room - 6).length * 7.4 + 8}
              height="19"
              fill="var(--panel)"
              stroke="none"
              rx="3"
            />
            <text x={from + room / 2} y={lane.top + HIGH / 2 + 4} text-anchor="middle" class="name"
              >{short(item.name, room - 6)}</text
            >
          {/if}
          <title>{item.name}: {fixed(item.thickness_mm)} ± {fixed(item.thickness_half_mm)} mm, {item.origin}</title>
        </g>
      {/each}
      {#if lane.fit.takes_mm !== null && lane.fit.takes_mm > lane.fit.gap_mm}
        <rect
          x={end}
          y={lane.top}
          width={x(lane.fit.takes_mm) - end}
          height={HIGH}
          fill="url(#over)"
          stroke="var(--too-hot)"
        />
        <text x={x(lane.fit.takes_mm) + 6} y={lane.top + 18} class="mm" fill="var(--too-hot)"
          >{fixed(lane.fit.takes_mm - lane.fit.gap_mm)}</text
        >
      {:else if lane.fit.left_mm !== null && x(lane.fit.gap_mm) - x(lane.fit.takes_mm ?? 0) > 30}
        <path
          d="M{x(lane.fit.takes_mm ?? 0) + 4} {lane.top + HIGH / 2}H{end - 4}m-6 -4l6 4l-6 4M{x(
            lane.fit.takes_mm ?? 0,
          ) + 10} {lane.top + HIGH / 2 - 4}l-6 4l6 4"
          class="left {tone}"
        />
        <text
          x={(x(lane.fit.takes_mm ?? 0) + end) / 2}
          y={lane.top + HIGH / 2 - 8}
          text-anchor="middle"
          class="mm {tone}">{fixed(lane.fit.left_mm)}</text
        >
      {/if}
      {#each figures(lane.fit) as figure, i (i)}
        <text
          x={figure.at}
          y={lane.label === "Trial" ? lane.top + HIGH + 18 : lane.top - 9}
          text-anchor="end"
          class="small num">{figure.text}</text
        >
        <path
          d="M{figure.from} {lane.label === 'Trial'
            ? lane.top + HIGH + 5
            : lane.top - 4}H{figure.to}m0 -3v6M{figure.from} {(lane.label === 'Trial'
            ? lane.top + HIGH + 5
            : lane.top - 4) - 3}v6"
          stroke={lane.tone}
          fill="none"
        />
      {/each}
      <path d="M{x(0)} {lane.top - 4}V{lane.top + HIGH + 4}M{end} {lane.top - 4}V{lane.top + HIGH + 4}" class="edge" />
    {/each}
    <rect x={LEFT - 10} y={24 + HIGH + 6} width={x(most) - LEFT + 20} height="26" rx="5" class="ruler" />
    {#each ticks as mm (mm)}
      {#if mm % step === 0}
        <path d="M{x(mm)} {24 + HIGH + 6}v10" class="tick" />
        <text x={x(mm)} y={24 + HIGH + 28} text-anchor="middle" class="small num">{mm}</text>
      {:else if fine || mm % 5 === 0}
        <path d="M{x(mm)} {24 + HIGH + 6}v{mm % 5 === 0 ? 7 : 4}" class="tick" />
      {/if}
    {/each}
    <text x={x(most) + 14} y={24 + HIGH + 24} class="small">mm</text>
  </svg>
</div>

<style>
  .item > rect:first-child {
    fill: var(--panel);
    stroke-width: 1.6;
  }
  .item.guess > rect:first-child {
    stroke-dasharray: 5 3;
  }
  .tube {
    fill: var(--sunk);
    stroke: var(--soft);
  }
  .blade {
    fill: none;
    stroke: var(--soft);
    stroke-width: 2;
  }
  .name {
    font-size: 13px;
    font-weight: 650;
    fill: var(--ink);
  }
  .lane {
    font-size: 14px;
    font-weight: 700;
  }
  .small {
    font-size: 12px;
    fill: var(--soft);
  }
  .beyond {
    font-size: 12.5px;
    font-weight: 650;
    fill: var(--ink);
    paint-order: stroke;
    stroke: var(--panel);
    stroke-width: 5px;
  }
  .edge {
    stroke: var(--ink);
    stroke-width: 2.2;
  }
  .ruler {
    fill: var(--sunk);
    stroke: var(--line);
  }
  .tick {
    stroke: var(--soft);
  }
  .mm {
    font-family: var(--font-mono);
    font-size: 15px;
    font-weight: 700;
    paint-order: stroke;
    stroke: var(--panel);
    stroke-width: 4px;
  }
  .left {
    fill: none;
    stroke-width: 1.6;
  }
  .left.good {
    stroke: var(--holds);
  }
  .left.warn {
    stroke: var(--tight);
  }
  .mm.good {
    fill: var(--holds);
  }
  .mm.warn {
    fill: var(--tight);
  }
</style>
