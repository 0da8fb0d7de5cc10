<script lang="ts">
  import { roving } from "$lib/ui/roving";
  import type { WorkloadResult } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Face } from "$lib/document/build";
  import { FACES, lowerFace } from "$lib/document/housing";
  import { css, heat } from "$lib/drawing/colour";
  import { columns, unfolded, type Rect } from "$lib/drawing/faces";
  import FaceFrame from "./FaceFrame.svelte";
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
        <FaceFrame
          {face}
          rect={rects[face]}
          note={says(face) || (face === below ? "down" : "")}
          shut={closed(document, face)}
        />
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
</style>
