<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { place, snapped, turn, unplace, type Point } from "$lib/document/fit";
  import StatusMark from "$lib/ui/StatusMark.svelte";
  import { fixed } from "$lib/units/format";
  import { leadTone, type LeadFit } from "./inPlace";
  import { CLASH, STATUS } from "./words";

  /** The housing from above or from the front, parts where they stand; dragged or moved by arrows, clashes ringed. */
  let {
    build,
    plan,
    leads = [],
    lead = null,
    selected = $bindable(),
    onmoving,
  }: {
    build: BuildState;
    plan: Schemas["Plan"];
    leads?: readonly LeadFit[];
    /** the lead in view */
    lead?: string | null;
    selected: string | null;
    /** where a part is while it is dragged; null when it is let go */
    onmoving: (moved: { id: string; at: Point } | null) => void;
  } = $props();
  let width = $state(420);
  let view = $state<"plan" | "side">("plan");
  let drag = $state<{ id: string; from: Point; x: number; y: number; at: Point } | null>(null);
  const MOST_HIGH = 300;
  const inside = $derived(plan.inside_mm as Point | null);
  const up = $derived(view === "plan" ? 1 : 2);
  const reach = $derived.by(() => {
    const ends = plan.placed.map((part) => part.high_mm as Point);
    const size = inside ?? [0, 0, 0];
    return [0, up].map((axis) => Math.max(size[axis]!, ...ends.map((end) => end[axis]!), 1)) as [number, number];
  });
  const scale = $derived(Math.min((width - 54) / reach[0], (MOST_HIGH - 46) / reach[1]));
  const high = $derived(reach[1] * scale + 46);
  const X = (mm: number) => 34 + mm * scale;
  const Y = (mm: number) => high - 28 - mm * scale;
  /** Drawn from far to near: from below seen from above, from the back seen from the front. */
  const drawn = $derived(
    [...plan.placed].sort((a, b) => (up === 1 ? a.high_mm[2]! - b.high_mm[2]! : b.low_mm[1]! - a.low_mm[1]!)),
  );
  const lines = $derived(
    leads.flatMap((fit) => {
      const points = build.document?.leads.find((one) => one.id === fit.lead)?.points_mm as Point[] | undefined;
      return points && points.length > 1 ? [{ ...fit, points }] : [];
    }),
  );
  const told = (clash: Schemas["Clash"], part: string) =>
    clash.first === part
      ? `${clash.what} ${clash.second_name} by ${fixed(clash.mm)} mm`
      : `${clash.first_name} ${clash.what} it by ${fixed(clash.mm)} mm`;
  const clashOf = (part: string) => plan.clashes.find((clash) => clash.first === part || clash.second === part);
  const named = (part: Schemas["Placed"], room: number) => {
    const fits = Math.floor(room / 6.6);
    return fits < 3 ? "" : part.name.length <= fits ? part.name : `${part.name.slice(0, fits - 1)}…`;
  };

  function outline(part: Schemas["Placed"]): string {
    if (view === "plan") return part.outline_mm.map(([x, y]) => `${X(x!)},${Y(y!)}`).join(" ");
    const [low, high] = [part.low_mm as Point, part.high_mm as Point];
    return [
      [low[0], low[2]],
      [high[0], low[2]],
      [high[0], high[2]],
      [low[0], high[2]],
    ]
      .map(([x, z]) => `${X(x!)},${Y(z!)}`)
      .join(" ");
  }
  /** Walls and the faces of neighbours along an axis. */
  const faces = (id: string, axis: number) => [
    0,
    ...(inside ? [inside[axis]!] : []),
    ...plan.placed.filter((part) => part.part !== id).flatMap((part) => [part.low_mm[axis]!, part.high_mm[axis]!]),
  ];

  function begin(event: PointerEvent, part: Schemas["Placed"]) {
    selected = part.part;
    if (!build.editable) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    const at = [...part.middle_mm] as Point;
    drag = { id: part.part, from: at, x: event.clientX, y: event.clientY, at };
  }

  function move(event: PointerEvent) {
    const part = plan.placed.find((one) => one.part === drag?.id);
    if (!drag || !part) return;
    const to = [...drag.from] as Point;
    for (const [axis, by] of [
      [0, (event.clientX - drag.x) / scale],
      [up, (drag.y - event.clientY) / scale],
    ] as const) {
      const size = part.high_mm[axis]! - part.low_mm[axis]!;
      to[axis] = snapped(drag.from[axis]! + by - size / 2, size, faces(drag.id, axis), 5 / scale) + size / 2;
    }
    drag.at = to.map((mm) => Math.round(mm * 10) / 10) as Point;
    onmoving({ id: drag.id, at: drag.at });
  }

  function end() {
    const done = drag;
    drag = null;
    onmoving(null);
    if (done && done.at.some((mm, i) => Math.abs(mm - done.from[i]!) > 0.05))
      build.edit(`move ${done.id}`, (draft) => place(draft, done.id, done.at));
  }

  function keys(event: KeyboardEvent, part: Schemas["Placed"]) {
    const by = event.altKey ? 10 : 1;
    const ways: Record<string, [number, number]> = {
      ArrowLeft: [0, -by],
      ArrowRight: [0, by],
      ArrowUp: [up, by],
      ArrowDown: [up, -by],
    };
    const way = ways[event.key];
    if (way && build.editable) {
      const to = [...part.middle_mm] as Point;
      to[way[0] as 0] += way[1];
      build.edit(`move ${part.part}`, (draft) => place(draft, part.part, to));
    } else if (event.key === "r" && build.editable) {
      build.edit(`turn ${part.part}`, (draft) => turn(draft, part.part, view === "plan" ? 2 : 1));
    } else if (event.key === "Delete" && build.editable) {
      build.edit(`take ${part.part} out of the plan`, (draft) => unplace(draft, part.part));
    } else if (event.key === "v") view = view === "plan" ? "side" : "plan";
    else if (event.key === "Enter") build.sheet = part.part;
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
  const shift = (part: Schemas["Placed"]) =>
    drag?.id === part.part
      ? `translate(${(drag.at[0] - part.middle_mm[0]!) * scale} ${-(drag.at[up]! - part.middle_mm[up]!) * scale})`
      : undefined;
</script>

<header>
  <h2>{view === "plan" ? "From above" : "From the front"}</h2>
  <span class="soft">mm, inside</span>
  <span class="grow"></span>
  {#each [["plan", "Plan"], ["side", "Side"]] as const as [id, text] (id)}
    <button class="tab" class:on={view === id} aria-pressed={view === id} onclick={() => (view = id)}>{text}</button>
  {/each}
</header>
<div bind:clientWidth={width}>
  <svg
    {width}
    height={high}
    role="group"
    aria-label="Parts in the housing, {view === 'plan' ? 'from above' : 'from the front'}"
  >
    {#if inside}
      <rect x={X(0)} y={Y(inside[up]!)} width={inside[0] * scale} height={inside[up]! * scale} class="wall" />
      <text x={X(inside[0] / 2)} y={high - 6} text-anchor="middle" class="num dim">{fixed(inside[0], 0)}</text>
      <text transform="translate(14 {Y(inside[up]! / 2)}) rotate(-90)" text-anchor="middle" class="num dim"
        >{fixed(inside[up], 0)}</text
      >
      <text x={X(0)} y={high - 6} class="dim">{view === "plan" ? "front" : "bottom"}</text>
    {/if}
    {#each plan.placed as part (part.part)}
      {#each part.room as room (room.what)}
        <rect
          x={X(room.low_mm[0]!)}
          y={Y(room.high_mm[up]!)}
          width={(room.high_mm[0]! - room.low_mm[0]!) * scale}
          height={(room.high_mm[up]! - room.low_mm[up]!) * scale}
          class="room"
        />
      {/each}
    {/each}
    {#each drawn as part (part.part)}
      {@const clash = clashOf(part.part)}
      {@const room = (part.high_mm[0]! - part.low_mm[0]!) * scale}
      <g
        class="part {clash ? CLASH[clash.says] : ''}"
        class:on={selected === part.part}
        class:guess={part.by_class}
        role="button"
        tabindex="0"
        aria-label="{part.name} at {part.middle_mm.map((mm) => fixed(mm, 0)).join(', ')} mm{clash
          ? `, ${told(clash, part.part)}`
          : ''}"
        transform={shift(part)}
        onpointerdown={(event) => begin(event, part)}
        onpointermove={move}
        onpointerup={end}
        onpointercancel={end}
        onkeydown={(event) => keys(event, part)}
        onfocus={() => (selected = part.part)}
      >
        <polygon points={outline(part)} />
        <text
          x={X((part.low_mm[0]! + part.high_mm[0]!) / 2)}
          y={Y((part.low_mm[up]! + part.high_mm[up]!) / 2) + 4}
          text-anchor="middle">{named(part, room)}</text
        >
      </g>
    {/each}
    {#each lines as line (line.lead)}
      <polyline
        class="lead {leadTone(line)}"
        class:on={lead === line.lead}
        points={line.points.map((at) => `${X(at[0])},${Y(at[up]!)}`).join(" ")}
        stroke-width={Math.max(line.outside_mm * scale, 1.6)}
      />
    {/each}
  </svg>
</div>
{#if plan.clashes.length}
  <ul>
    {#each plan.clashes.slice(0, 6) as clash, i (i)}
      <li class={CLASH[clash.says]}>
        <StatusMark status={STATUS[CLASH[clash.says]]} size={13} />
        <button class="what" onclick={() => (selected = clash.first)}
          >{clash.first_name} {clash.what} {clash.second_name}</button
        >
        <span class="num"
          >{clash.mm > 0 ? fixed(clash.mm) : `${fixed(-clash.mm)} free`} ± {fixed(clash.half_mm)} mm</span
        >
      </li>
    {/each}
  </ul>
{/if}

<style>
  header {
    display: flex;
    align-items: baseline;
    gap: 10px;
  }
  .grow {
    flex: 1;
  }
  .tab {
    font-weight: 600;
    color: var(--soft);
    cursor: pointer;
    padding: 2px 4px;
  }
  .tab.on {
    color: var(--ink);
    border-bottom: 2px solid var(--accent);
  }
  .wall {
    fill: var(--panel);
    stroke: var(--ink);
    stroke-width: 2.4;
  }
  .room {
    fill: none;
    stroke: var(--soft);
    stroke-dasharray: 3 3;
  }
  .part polygon {
    fill: var(--sunk);
    fill-opacity: 0.85;
    stroke: var(--ink);
    stroke-width: 1.4;
  }
  .part.guess polygon {
    stroke-dasharray: 5 3;
  }
  .part {
    cursor: grab;
    touch-action: none;
  }
  .part:focus-visible {
    outline: none;
  }
  .part:focus-visible polygon,
  .part.on polygon {
    stroke: var(--accent);
    stroke-width: 2.4;
  }
  .part.bad polygon {
    stroke: var(--too-hot);
    stroke-width: 2.4;
  }
  .part.warn polygon {
    stroke: var(--tight);
  }
  .part text {
    font-size: 12.5px;
    font-weight: 650;
    fill: var(--ink);
    pointer-events: none;
  }
  .lead {
    fill: none;
    stroke: var(--soft);
    stroke-opacity: 0.75;
    stroke-linejoin: round;
    stroke-linecap: round;
    pointer-events: none;
  }
  .lead.bad {
    stroke: var(--too-hot);
  }
  .lead.warn {
    stroke: var(--tight);
  }
  .lead.on {
    stroke: var(--accent);
    stroke-opacity: 1;
  }
  .dim {
    font-size: 12px;
    fill: var(--soft);
  }
  ul {
    font-size: 13.5px;
  }
  li {
    display: flex;
    gap: 6px;
    align-items: baseline;
    padding: 1px 0;
  }
  li.bad .num {
    color: var(--too-hot);
  }
  li.warn .num {
    color: var(--tight);
  }
  .what {
    flex: 1;
    text-align: left;
    cursor: pointer;
  }
</style>
