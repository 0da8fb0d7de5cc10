<script lang="ts">
  import type { LoopResult } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { leaves } from "$lib/document/elements";
  import { moved, type Element } from "$lib/document/build";
  import { css, heat } from "$lib/drawing/colour";
  import { removePart } from "$lib/document/parts";
  import { roving } from "$lib/ui/roving";
  import { beads, nearest } from "$lib/drawing/ring";
  import { celsius, signed } from "$lib/units/format";

  let { build, loop }: { build: BuildState; loop: LoopResult } = $props();
  const HEIGHT = 214;
  const TOP = 64;
  const BOTTOM = 146;
  let width = $state(560);
  const series = $derived(build.document?.loops.find((l) => l.id === loop.address)?.elements ?? []);
  const places = $derived(beads(series.length, Math.max(width, 420), TOP, BOTTOM));
  let dragged = $state<number | null>(null);
  /** where the pointer holds a bead, and the bead whose place it would take */
  let hand = $state({ x: 0, y: 0 });
  const target = $derived(dragged === null ? null : nearest(places, hand.x, hand.y));
  let svg: SVGSVGElement | undefined = $state();

  const first = (element: Element): string => (typeof element === "string" ? element : first(element.parallel[0]![0]!));
  const solved = (id: string) => loop.elements.find((e) => e.address === id);

  /** What a bead says: its part, or of branches beside each other the drop of one and the mixed coolant after them. */
  function figures(element: Element) {
    if (typeof element === "string") return solved(element);
    const ways = element.parallel.map((series) =>
      leaves(series)
        .map(solved)
        .filter((e) => e !== undefined),
    );
    const ends = ways.map((way) => way.at(-1)).filter((e) => e !== undefined);
    const flow = ends.reduce((sum, e) => sum + Math.abs(e.flow_l_min), 0);
    if (!ends.length) return undefined;
    return {
      ...ends[0]!,
      name: `${element.parallel.length} branches`,
      drop_kpa: (ways[0] ?? []).reduce((sum, e) => sum + e.drop_kpa, 0),
      outlet_c: ends.reduce((sum, e) => sum + e.outlet_c * Math.abs(e.flow_l_min), 0) / (flow || 1),
    };
  }

  const name = (element: Element) =>
    typeof element === "string" ? (figures(element)?.name ?? element) : `${element.parallel.length} branches`;
  const spacing = $derived((Math.max(width, 420) - 60) / Math.max(Math.ceil(series.length / 2), 1));
  function shortName(element: Element): string {
    const full = name(element);
    const most = Math.floor(spacing / 6.6);
    return full.length <= most ? full : `${full.slice(0, Math.max(most - 1, 3))}…`;
  }
  const tint = (celsiusValue: number | undefined) =>
    css(heat(((celsiusValue ?? loop.lowest_c) - build.room) / Math.max(40, loop.highest_c - build.room)));

  function reorder(change: (elements: Element[]) => Element[]) {
    build.edit(`order of ${loop.name}`, (draft) => {
      const target = draft.loops.find((l) => l.id === loop.address);
      if (target) target.elements = change(target.elements);
    });
  }

  function onkeydown(event: KeyboardEvent, index: number) {
    const element = series[index]!;
    if (event.key === "Enter") build.sheet = first(element);
    if (event.key === "Delete" && typeof element === "string" && build.editable) {
      build.edit(`take ${name(element)} out`, (draft) => removePart(draft, element));
    }
    const by = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
    if (!by || !event.altKey) return;
    event.preventDefault();
    reorder((elements) => moved(elements, index, by));
    const next = (event.currentTarget as SVGElement).parentElement?.querySelectorAll<SVGElement>("[data-bead]")[
      index + by
    ];
    next?.focus();
  }

  function follow(event: PointerEvent) {
    if (dragged === null || !svg) return;
    const box = svg.getBoundingClientRect();
    hand = { x: event.clientX - box.left, y: event.clientY - box.top };
  }

  function drop(event: PointerEvent) {
    if (dragged === null || !svg) return;
    follow(event);
    const to = nearest(places, hand.x, hand.y);
    const from = dragged;
    dragged = null;
    if (to === from) {
      build.sheet = first(series[from]!);
      return;
    }
    reorder((elements) => {
      const next = [...elements];
      const [taken] = next.splice(from, 1);
      if (taken !== undefined) next.splice(to, 0, taken);
      return next;
    });
  }
</script>

<div class="min-w-0 grow" bind:clientWidth={width}>
  <svg
    bind:this={svg}
    {width}
    height={HEIGHT}
    onpointerup={drop}
    onpointermove={follow}
    onpointerleave={() => (dragged = null)}
    {@attach roving("[data-bead]")}
    role="group"
    aria-label="{loop.name}, elements in flow order"
  >
    <rect
      x="14"
      y={TOP}
      width={Math.max(width - 28, 10)}
      height={BOTTOM - TOP}
      rx="39"
      fill="none"
      stroke="var(--line)"
      stroke-width="8"
    />
    <path d="M{width / 2 - 4} {TOP - 5}l6 5-6 5" stroke="var(--soft)" fill="none" stroke-width="2" />
    <path d="M{width / 2 + 4} {BOTTOM - 5}l-6 5 6 5" stroke="var(--soft)" fill="none" stroke-width="2" />
    {#each series as element, index (first(element))}
      {@const bead = places[index]!}
      {@const own = figures(element)}
      <g
        data-bead={first(element)}
        role="button"
        tabindex="-1"
        aria-keyshortcuts="Alt+ArrowLeft Alt+ArrowRight Delete"
        onkeydown={(event) => onkeydown(event, index)}
        onpointerdown={(event) => ((dragged = index), follow(event))}
      >
        <circle
          cx={bead.x}
          cy={bead.y}
          r="11"
          fill={tint(own?.outlet_c)}
          stroke={dragged === index ? "var(--accent)" : "var(--ink)"}
          stroke-width="2"
        />
        {#if typeof element !== "string"}
          <circle cx={bead.x} cy={bead.y} r="5" fill="none" stroke="var(--ink)" stroke-width="1.5" />
        {/if}
        <text x={bead.x} y={bead.top ? bead.y - 46 : bead.y + 26} class="name">{shortName(element)}</text>
        <text x={bead.x} y={bead.top ? bead.y - 31 : bead.y + 41} class="num small"
          >{signed(own ? -own.drop_kpa : undefined)} kPa</text
        >
        <text x={bead.x} y={bead.top ? bead.y - 17 : bead.y + 56} class="num small strong"
          >{celsius(own?.outlet_c)}</text
        >
      </g>
    {/each}
    {#if dragged !== null && target !== null && target !== dragged}
      <circle class="mark" cx={places[target]!.x} cy={places[target]!.y} r="17" data-testid="drop-mark" />
      <circle class="ghost" cx={hand.x} cy={hand.y} r="11" data-testid="drag-ghost" />
    {/if}
  </svg>
</div>

<style>
  g {
    cursor: grab;
  }
  g:focus-visible circle {
    stroke: var(--accent);
    stroke-width: 4;
  }
  .mark,
  .ghost {
    fill: none;
    stroke: var(--accent);
    stroke-width: 3;
    pointer-events: none;
  }
  .ghost {
    stroke-dasharray: 3 3;
    stroke-width: 2;
  }
  text {
    text-anchor: middle;
    fill: var(--ink);
    user-select: none;
  }
  .name {
    font-size: 12px;
    font-weight: 600;
  }
  .small {
    font-size: 12px;
    fill: var(--soft);
  }
  .strong {
    fill: var(--ink);
  }
</style>
