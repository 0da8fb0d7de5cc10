<script lang="ts">
  import type { WorkloadResult } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Face } from "$lib/document/build";
  import { fallOn, FACES, lowerFace } from "$lib/document/housing";
  import { css, heat } from "$lib/drawing/colour";
  import { columns, unfolded } from "$lib/drawing/faces";
  import { short } from "$lib/drawing/words";
  import { onPress } from "$lib/ui/press";
  import { roving } from "$lib/ui/roving";
  import { celsius, watts } from "$lib/units/format";
  import FaceFrame from "./FaceFrame.svelte";
  import { areaOf, faceOf, toRoom } from "./model";

  /** A closed housing unfolded: what each face passes on to the room, how warm it is, and which way things fall. */
  let { build, result }: { build: BuildState; result: WorkloadResult } = $props();
  const MOST = 440;
  const SIDE = 4;
  const LINE = 19;
  let width = $state(560);
  const document = $derived(build.document!);
  const rects = $derived(unfolded(areaOf(document), Math.max(width, 380) - 2 * SIDE, MOST - 2 * SIDE));
  const below = $derived(lowerFace(document));
  const total = $derived(result.bodies.reduce((sum, body) => sum + toRoom(body), 0));
  const tint = (kelvins: number) => css(heat(kelvins / 25));
  const on = (face: Face) => result.bodies.filter((body) => faceOf(document, body.address) === face);
  const share = (part: number) => (total > 0 ? `${Math.round((100 * part) / total)} %` : "");

  /** What a face says in so many lines: least of all its share and a name that says no more than the face. */
  function linesOf(body: WorkloadResult["bodies"][number], face: Face, most: number): string[] {
    const given = watts(toRoom(body));
    const name = body.name.toLowerCase() === face ? [] : [body.name];
    const all = [...name, given, celsius(body.temperature_c), share(toRoom(body))];
    const kept = [given, celsius(body.temperature_c), ...name, share(toRoom(body))].slice(0, Math.max(most, 1));
    return all.filter((line) => kept.includes(line));
  }
</script>

<div class="min-w-0" bind:clientWidth={width}>
  <svg
    {width}
    height={rects.bottom.y + rects.bottom.h + 2 * SIDE}
    role="group"
    aria-label="The closed housing unfolded: watts to the room by face"
    {@attach roving("[role=button]")}
  >
    <g transform="translate({SIDE} {SIDE})">
      {#each FACES as face (face)}
        {@const bodies = on(face)}
        <FaceFrame
          {face}
          rect={rects[face]}
          fall={fallOn(document, face)}
          note={face === below ? "down" : bodies.length ? "" : "no panel"}
        />
        {#each columns( rects[face], bodies.map(() => 1) ) as column, i (bodies[i]!.address)}
          {@const body = bodies[i]!}
          {@const middle = column.x + column.w / 2}
          {@const lines = linesOf(body, face, Math.floor((column.h - 28) / LINE))}
          {@const first = column.y + 24 + (column.h - 30 - LINE * (lines.length - 1)) / 2 + 3}
          <g
            role="button"
            tabindex="-1"
            aria-label="{body.name}: {watts(toRoom(body))} to the room, {celsius(body.temperature_c)}"
            onclick={() => (build.sheet = body.address)}
            onkeydown={onPress(() => (build.sheet = body.address))}
          >
            <rect
              x={column.x}
              y={column.y + 22}
              width={column.w}
              height={column.h - 28}
              rx="4"
              fill={tint(body.over_room_k)}
              class="warm"
            />
            {#each lines as line, at (line)}
              <text
                x={middle}
                y={first + at * LINE}
                text-anchor="middle"
                class:num={line !== body.name}
                class:big={line === watts(toRoom(body))}>{short(line, column.w - 6)}</text
              >
            {/each}
          </g>
        {/each}
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
  .big {
    font-size: 15px;
    font-weight: 650;
  }
  .warm {
    fill-opacity: 0.28;
  }
  [role="button"] {
    cursor: pointer;
  }
  [role="button"]:focus-visible {
    outline: none;
  }
  [role="button"]:focus-visible .warm {
    stroke: var(--accent);
    stroke-width: 2.5;
  }
</style>
