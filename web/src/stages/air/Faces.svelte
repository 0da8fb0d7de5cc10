<script lang="ts">
  import { roving } from "$lib/ui/roving";
  import type { WorkloadResult } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Face } from "$lib/document/build";
  import { FACES, lowerFace } from "$lib/document/housing";
  import { css, heat } from "$lib/drawing/colour";
  import { columns, unfolded, type Rect } from "$lib/drawing/faces";
  import { short } from "$lib/drawing/words";
  import FaceMouth from "./FaceMouth.svelte";
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
  const says = (face: Face) => {
    const near = nearby(document, face);
    if (closed(document, face)) return "closed";
    if (near !== undefined) return face === "bottom" ? `feet ${near} mm` : `wall ${near} mm away`;
    return "";
  };
  const press = (part: string, twice: boolean) => {
    if (twice && selected === part) build.sheet = part;
    else onselect(part);
  };
</script>

<div class="min-w-0" bind:clientWidth={width}>
  <svg
    {width}
    {height}
    role="group"
    aria-label="The housing unfolded into its six faces"
    {@attach roving("[role=button]")}
  >
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
        <FaceMouth {...item} name={label(item.mouth)} edge={rects[item.mouth.face]} {most} {tint} {selected} {press} />
      {/each}
    </g>
  </svg>
</div>

<style>
  svg {
    display: block;
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
  .note {
    fill: var(--soft);
    font-size: 12px;
  }
</style>
