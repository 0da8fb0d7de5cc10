<script lang="ts">
  import type { Schemas, WorkloadResult } from "$lib/api/client";
  import { css, heat, textOn } from "$lib/drawing/colour";
  import { layOut } from "$lib/drawing/terraces";
  import { short } from "$lib/drawing/words";
  import EdgeFade from "$lib/ui/EdgeFade.svelte";
  import { fixed, kelvins, signed } from "$lib/units/format";

  /** What was measured as a tower behind the one that was predicted, so that the hop that is off is seen. */
  let {
    predicted,
    verdict,
    parts,
  }: {
    predicted: WorkloadResult;
    verdict: Schemas["VerdictOut"];
    /** the part of each hop, by the hop's id */
    parts: Record<string, string>;
  } = $props();
  const HEIGHT = 250;
  const WIDER = 5;
  const MOST_K = 25;
  let available = $state(760);
  const measured = $derived(
    Object.fromEntries(verdict.places.map((place) => [place.role.replace(/\/temperature$/, ""), place])),
  );
  /** parts that were measured, on a scale that has room for what they read */
  const shown = $derived({
    ...predicted,
    places: predicted.places
      .filter((place) => measured[place.address])
      .map((place) => {
        const high = Math.max(
          place.temperature_c,
          Math.min(measured[place.address]!.measured_c, place.temperature_c + MOST_K),
        );
        return { ...place, limit_c: null, band_c: { low: place.temperature_c, high } };
      }),
  });
  const drawing = $derived(layOut(shown, Math.max(available, 380), HEIGHT));
  const perKelvin = $derived.by(() => {
    const [tower] = drawing.towers;
    return tower ? (drawing.ground - tower.top) / Math.max(tower.place.temperature_c - predicted.room_c, 1e-6) : 1;
  });
  const at = $derived((celsius: number) => drawing.ground - (celsius - predicted.room_c) * perKelvin);
  const suspects = $derived(new Set(verdict.suspects.map((suspect) => suspect.address.split("/")[0])));
  const isSuspect = (address: string) => suspects.has(address) || suspects.has(parts[address] ?? "");
  const tone = (conclusion: string) =>
    conclusion.startsWith("hotter")
      ? "var(--too-hot)"
      : conclusion.startsWith("cooler")
        ? "var(--tight)"
        : "var(--soft)";
</script>

{#if drawing.towers.length}
  <EdgeFade bind:width={available} testid="measured" middles={drawing.towers.map((tower) => tower.x + tower.width / 2)}>
    <svg
      width={drawing.width}
      height={HEIGHT + 40}
      role="img"
      aria-label="Measured temperatures behind predicted towers"
    >
      {#each drawing.ticks as tick (tick.c)}
        <line x1="42" x2={drawing.width} y1={tick.y} y2={tick.y} stroke="var(--line)" stroke-dasharray="2 5" />
        <text x="38" y={tick.y + 4} class="tick num" text-anchor="end">{tick.c}</text>
      {/each}
      {#each drawing.towers as tower (tower.place.address)}
        {@const place = measured[tower.place.address]!}
        {@const top = at(place.measured_c)}
        <rect
          class="measured"
          x={tower.x - WIDER}
          y={top}
          width={tower.width + 2 * WIDER}
          height={Math.max(drawing.ground - top, 1)}
          style:stroke={tone(place.conclusion)}
          data-measured={tower.place.address}
        />
      {/each}
      {#each drawing.terraces as terrace (terrace.address)}
        <rect x={terrace.x} y={terrace.y} width={terrace.width} height={terrace.height} rx="3" fill={css(heat(0.12))} />
      {/each}
      {#each drawing.towers as tower (tower.place.address)}
        {@const place = measured[tower.place.address]!}
        {#each tower.blocks as block (block.address)}
          {@const colour = heat(block.share)}
          <rect
            x={tower.x}
            y={block.y}
            width={tower.width}
            height={Math.max(block.height - 1, 1)}
            rx="3"
            fill={css(colour)}
            class:suspect={isSuspect(block.address) || block.merged.some((one) => isSuspect(one.address))}
          />
          {#if block.height > 14}
            <text x={tower.x + 6} y={block.y + Math.min(14, block.height / 2 + 4.5)} fill={textOn(colour)} class="block"
              >{short(`${block.name} ${kelvins(block.drop)}`, tower.width - 10, 7)}</text
            >
          {/if}
        {/each}
        <text class="name" x={tower.x} y={drawing.ground + 18}>{short(tower.place.name, tower.width - 4, 7.8)}</text>
        <text class="num off" x={tower.x} y={drawing.ground + 35} style:fill={tone(place.conclusion)}
          >{tower.width > 150 ? `${fixed(place.measured_c)} °C, ` : ""}{signed(place.residual_k)} K</text
        >
      {/each}
      <line x1="42" x2={drawing.width} y1={drawing.ground + 1} y2={drawing.ground + 1} class="ground" />
    </svg>
  </EdgeFade>
  <p class="soft text-sm">
    Filled: predicted, hop by hop. Outline behind: measured. A hop with a red edge would explain it.
  </p>
{/if}

<style>
  .tick {
    font-size: 12.5px;
    fill: var(--soft);
  }
  .block {
    font-size: 13px;
    font-weight: 550;
  }
  .name {
    font-size: 14px;
    font-weight: 650;
    fill: var(--ink);
  }
  .off {
    font-size: 12.5px;
  }
  .measured {
    fill: var(--hatch);
    fill-opacity: 0.5;
    stroke-width: 2.5;
  }
  .suspect {
    stroke: var(--accent);
    stroke-width: 3;
  }
  .ground {
    stroke: var(--ink);
    stroke-width: 2;
  }
</style>
