<script lang="ts">
  import { roving } from "$lib/ui/roving";
  import type { WorkloadResult } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Face, Part } from "$lib/document/build";
  import { leaves } from "$lib/document/elements";
  import { FACES, lowerFace } from "$lib/document/housing";
  import { css, heat } from "$lib/drawing/colour";
  import { columns, unfolded, widthFor, type Rect } from "$lib/drawing/faces";
  import FaceFrame from "./FaceFrame.svelte";
  import FaceMouth from "./FaceMouth.svelte";
  import { LABEL } from "./labels";
  import Station from "./Station.svelte";
  import { areaOf, closed, mouths, nearby, stations, zoneName, type Mouth } from "./model";

  let {
    build,
    result,
    selected,
    onselect,
  }: { build: BuildState; result: WorkloadResult; selected: string | null; onselect: (part: string) => void } =
    $props();

  const BELOW = 82;
  const SIDE = 4;
  let width = $state(560);
  const height = $derived(build.trial.document ? 354 : 490);
  const document = $derived(build.document!);
  const all = $derived(mouths(document, result));
  const on = (face: Face) => all.filter((mouth) => mouth.face === face);
  const weightsOn = (face: Face) =>
    on(face).map((mouth) => Math.max(mouth.parts.filter((part) => part.kind === "fan").length, 1));
  const ABOVE = $derived(on("top").length ? 84 : 4);
  const needs = $derived(Object.fromEntries(FACES.map((face) => [face, widthFor(weightsOn(face), LABEL)])));
  const rects = $derived(unfolded(areaOf(document), Math.max(width, 380) - 2 * SIDE, height - ABOVE - BELOW, needs));
  const foot = (face: Face) => rects[face].y + rects[face].h + (on(face).length ? BELOW : SIDE);
  const used = $derived(ABOVE + Math.max(...FACES.map(foot)));
  const most = $derived(Math.max(1, ...all.map((mouth) => mouth.flow)));
  const below = $derived(lowerFace(document));
  const tint = (celsius: number) => css(heat((celsius - result.room_c) / 25));

  type Drawn = { mouth: Mouth; rect: Rect };
  const drawn: Drawn[] = $derived(
    FACES.flatMap((face) => {
      const here = on(face);
      return columns(rects[face], weightsOn(face)).map((rect, i) => ({ mouth: here[i]!, rect }));
    }),
  );

  const beside = $derived(stations(document, result));
  /** nothing of the unfolded housing lies above its back */
  const corner = $derived({ ...rects.top, x: rects.back.x, w: rects.back.w });
  const fansOf = (path: string) =>
    leaves(document.air_paths.find((own) => own.id === path)?.elements ?? [])
      .map((id) => document.parts.find((part) => part.id === id))
      .filter((part) => part?.kind === "fan") as Part[];

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
    height={used}
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
      {#each beside as station, i (station.address)}
        <Station
          name={station.name}
          fans={fansOf(station.address)}
          rect={columns(
            corner,
            beside.map(() => 1),
          )[i]!}
          flow={station.airflow_m3_h}
          from={station.inlet_c}
          to={station.outlet_c}
          {selected}
          {press}
        />
      {/each}
    </g>
  </svg>
</div>

<style>
  svg {
    display: block;
  }
</style>
