<script lang="ts">
  import type { WorkloadResult } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Face } from "$lib/document/build";
  import { FACES, lowerFace } from "$lib/document/housing";
  import { css, heat } from "$lib/drawing/colour";
  import { arrowLength, columns, unfolded, type Rect } from "$lib/drawing/faces";
  import { fixed } from "$lib/units/format";
  import { areaOf, closed, mouths, nearby, zoneName, type Mouth } from "./model";

  let {
    build,
    result,
    selected,
    onselect,
  }: { build: BuildState; result: WorkloadResult; selected: string | null; onselect: (part: string) => void } =
    $props();

  const BELOW = 50;
  const SIDE = 4;
  let width = $state(560);
  const height = $derived(build.trial.document ? 322 : 458);
  const document = $derived(build.document!);
  const all = $derived(mouths(document, result));
  const ABOVE = $derived(all.some((mouth) => mouth.face === "top") ? 46 : 4);
  const rects = $derived(unfolded(areaOf(document), Math.max(width, 380) - 2 * SIDE, height - ABOVE - BELOW));
  const most = $derived(Math.max(1, ...all.map((mouth) => mouth.flow)));
  const below = $derived(lowerFace(document));
  const tint = (celsius: number) => css(heat((celsius - result.room_c) / 25));

  type Drawn = { mouth: Mouth; rect: Rect };
  const drawn: Drawn[] = $derived(
    FACES.flatMap((face) => {
      const here = all.filter((mouth) => mouth.face === face);
      const weights = here.map((mouth) => Math.max(mouth.parts.filter((part) => part.kind === "fan").length, 1));
      return columns(rects[face], weights).map((rect, i) => ({ mouth: here[i]!, rect }));
    }),
  );

  const chambers = $derived(document.zones.filter((zone) => zone.kind === "box").length);
  const label = (mouth: Mouth) =>
    chambers > 1 && !mouth.chamber.startsWith("outside")
      ? `${mouth.name} · ${zoneName(document, mouth.chamber)}`
      : mouth.name;
  /** Room between a face's own line and what stands at its foot. */
  const roomIn = (mouth: Mouth, rect: Rect) => rect.h - (mouth.face === "front" ? 66 : 46);
  const dotRows = (mouth: Mouth, rect: Rect) => {
    const count = Math.max(Math.min(Math.floor(roomIn(mouth, rect) / 13), 3), 1);
    return Array.from({ length: count }, (_, row) => row - (count - 1) / 2);
  };

  const says = (face: Face) => {
    const near = nearby(document, face);
    if (closed(document, face)) return "closed";
    if (near !== undefined) return face === "bottom" ? `feet ${near} mm` : `wall ${near} mm away`;
    return "";
  };
  const fansOf = (mouth: Mouth) => mouth.parts.filter((part) => part.kind === "fan");
  const radiatorOf = (mouth: Mouth) => mouth.parts.find((part) => part.kind === "radiator");
  const openingsOf = (mouth: Mouth) => mouth.parts.filter((part) => ["opening", "filter", "gap"].includes(part.kind));
  const short = (text: string, room: number) => {
    const letters = Math.floor(room / 6.4);
    return text.length <= letters ? text : `${text.slice(0, Math.max(letters - 1, 2))}…`;
  };

  /** Where the arrow of a mouth stands: above the top, inside the front, below all others. */
  function arrow({ mouth, rect }: Drawn) {
    const length = arrowLength(mouth.flow, most);
    const x = rect.x + rect.w / 2;
    if (mouth.face === "top") {
      const ends = [-length - 4, -4] as const;
      return { x, from: ends[mouth.into ? 0 : 1], to: ends[mouth.into ? 1 : 0], textX: x + 16, label: -20 };
    }
    if (mouth.face === "front") {
      const base = rect.y + rect.h - 5;
      const ends = [base, base - 26] as const;
      return { x, from: ends[mouth.into ? 0 : 1], to: ends[mouth.into ? 1 : 0], textX: x + 16, label: base - 17 };
    }
    const edge = rects[mouth.face].y + rects[mouth.face].h + 4;
    const ends = [edge + length, edge] as const;
    // below the left face there is no room beside the arrow: the bottom face begins there
    const [textX, label] = mouth.face === "left" ? [rect.x, edge + length + 15] : [x + 16, edge + 15];
    return { x, from: ends[mouth.into ? 0 : 1], to: ends[mouth.into ? 1 : 0], textX, label };
  }

  function onkeydown(event: KeyboardEvent, part: string) {
    if (event.key === "Enter" || event.key === " ") {
      event.preventDefault();
      if (selected === part) build.sheet = part;
      else onselect(part);
    }
  }
</script>

<div class="min-w-0" bind:clientWidth={width}>
  <svg {width} {height} role="group" aria-label="The housing unfolded into its six faces">
    <g transform="translate({SIDE} {ABOVE})">
      {#each FACES as face (face)}
        {@const rect = rects[face]}
        {@const note = says(face)}
        <rect
          x={rect.x}
          y={rect.y}
          width={rect.w}
          height={rect.h}
          rx="6"
          fill="var(--panel)"
          stroke="var(--soft)"
          stroke-width={closed(document, face) ? 3 : 1.5}
          stroke-dasharray={note.startsWith("wall") ? "4 3" : undefined}
        />
        <text x={rect.x + 7} y={rect.y + 15} class="face">{face}</text>
        {#if note || face === below}
          <text x={rect.x + rect.w - 7} y={rect.y + 15} text-anchor="end" class="note"
            >{short(note || "down", rect.w - 52)}</text
          >
        {/if}
      {/each}
      {#each drawn as item, i (i)}
        {#if i > 0 && drawn[i - 1]!.mouth.face === item.mouth.face && drawn[i - 1]!.mouth.chamber !== item.mouth.chamber}
          <path
            d="M{item.rect.x - 2} {item.rect.y + 2}v{item.rect.h - 4}"
            stroke="var(--soft)"
            stroke-width="2"
            stroke-dasharray="6 4"
          />
        {/if}
        {@const { mouth, rect } = item}
        {@const fans = fansOf(mouth)}
        {@const radiator = radiatorOf(mouth)}
        {@const size = Math.max(
          Math.min((rect.w - 6) / Math.max(fans.length, 1), rect.h - (mouth.face === "front" ? 66 : 46), 74),
          14,
        )}
        {@const middle = rect.y + 22 + (rect.h - (mouth.face === "front" ? 66 : 46)) / 2}
        {@const at = arrow(item)}
        {#if radiator}
          <g
            role="button"
            tabindex="0"
            aria-label="{radiator.name || radiator.id}, radiator"
            onclick={() => onselect(radiator.id)}
            onkeydown={(event) => onkeydown(event, radiator.id)}
          >
            <rect
              x={rect.x + 1}
              y={middle - size / 2 - 4}
              width={rect.w - 2}
              height={size + 8}
              rx="4"
              fill="var(--sunk)"
              stroke={selected === radiator.id ? "var(--accent)" : "var(--soft)"}
              stroke-width={selected === radiator.id ? 3 : 1}
            />
          </g>
        {/if}
        {#if !fans.length && !radiator}
          {@const opening = openingsOf(mouth)[0]}
          {#if opening}
            <g
              role="button"
              tabindex="0"
              aria-label="{opening.name || opening.id}, {opening.kind}"
              onclick={() => onselect(opening.id)}
              onkeydown={(event) => onkeydown(event, opening.id)}
            >
              <rect x={rect.x} y={middle - 18} width={rect.w} height="36" fill="transparent" />
              {#each Array.from({ length: Math.max(Math.floor(rect.w / 15), 2) }, (_, n) => n) as column (column)}
                {#each dotRows(mouth, rect) as row (row)}
                  <circle
                    cx={rect.x + 9 + column * 14}
                    cy={middle + row * 13}
                    r="3.4"
                    fill={selected === opening.id ? "var(--accent)" : "var(--hatch)"}
                  />
                {/each}
              {/each}
            </g>
          {/if}
        {/if}
        {#each fans as fan, i (fan.id)}
          {@const cx = rect.x + (rect.w * (i + 0.5)) / fans.length}
          <g
            role="button"
            tabindex="0"
            aria-label="{fan.name || fan.id}, fan"
            onclick={() => onselect(fan.id)}
            onkeydown={(event) => onkeydown(event, fan.id)}
            transform="translate({cx} {middle})"
            class:on={selected === fan.id}
          >
            <circle r={size / 2 - 2} fill="var(--panel)" class="line" />
            {#each [0, 120, 240] as turn (turn)}
              <path
                d="M0 0C{size * 0.12} {-size * 0.1} {size * 0.16} {-size * 0.28} {size * 0.06} {-size * 0.4}"
                transform="rotate({turn})"
                class="line"
                fill="none"
              />
            {/each}
          </g>
        {/each}
        {#if mouth.face !== "front" || rect.h > 130}
          <text
            x={rect.x + rect.w / 2}
            y={rect.y + rect.h - (mouth.face === "front" ? 38 : 7)}
            text-anchor="middle"
            class="name">{short(label(mouth), rect.w)}</text
          >{/if}
        <path d="M{at.x} {at.from}L{at.x} {at.to}" stroke={tint(mouth.celsius)} stroke-width="9" fill="none" />
        <path
          d="M{at.x - 11} {at.to}L{at.x} {at.to + (at.to < at.from ? -10 : 10)}L{at.x + 11} {at.to}Z"
          fill={tint(mouth.celsius)}
        />
        <text x={at.textX} y={at.label - 1} class="num flow"
          >{fixed(mouth.flow, 0)} m³/h {mouth.into ? "in" : "out"}</text
        >
        <text x={at.textX} y={at.label + 13} class="num small">{fixed(mouth.celsius)} °C</text>
      {/each}
    </g>
  </svg>
</div>

<style>
  svg {
    display: block;
  }
  g[role="button"] {
    cursor: pointer;
  }
  g[role="button"]:focus-visible {
    outline: none;
  }
  g[role="button"]:focus-visible rect,
  g[role="button"]:focus-visible circle {
    stroke: var(--accent);
    stroke-width: 3.5;
  }
  .line {
    stroke: var(--ink);
    stroke-width: 1.7;
  }
  .on .line {
    stroke: var(--accent);
    stroke-width: 2.6;
  }
  text {
    fill: var(--ink);
    font-size: 12px;
    user-select: none;
  }
  .face {
    font-weight: 650;
    fill: var(--soft);
  }
  .note,
  .small {
    fill: var(--soft);
    font-size: 12px;
  }
  .name {
    font-size: 11.5px;
    fill: var(--soft);
  }
  .flow {
    font-weight: 650;
  }
</style>
