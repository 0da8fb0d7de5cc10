<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { fixed, signed } from "$lib/units/format";

  let { place, low, high }: { place: Schemas["PlaceVerdict"]; low: number; high: number } = $props();
  const x = $derived((value: number) => Math.min(Math.max(((value - low) / (high - low)) * 100, 0), 100));
  const tone = $derived(
    place.conclusion === "as predicted"
      ? "var(--holds)"
      : place.conclusion === "cannot tell"
        ? "var(--soft)"
        : place.conclusion.startsWith("hotter")
          ? "var(--too-hot)"
          : "var(--tight)",
  );
</script>

<tr>
  <td class="font-semibold">{place.name}</td>
  <td>
    <svg
      width="100%"
      height="22"
      role="img"
      aria-label="{place.name}: predicted {fixed(place.predicted_low)} to {fixed(
        place.predicted_high,
      )}, measured {fixed(place.measured_c)}"
    >
      <line x1="0" x2="100%" y1="11" y2="11" stroke="var(--line)" />
      <rect
        x="{x(place.predicted_low)}%"
        y="5"
        width="{Math.max(x(place.predicted_high) - x(place.predicted_low), 0.3)}%"
        height="12"
        rx="3"
        fill="var(--sunk)"
        stroke="var(--soft)"
      />
      <line
        x1="{x(place.predicted_c)}%"
        x2="{x(place.predicted_c)}%"
        y1="5"
        y2="17"
        stroke="var(--soft)"
        stroke-width="2"
      />
      <line
        x1="{x(place.measured_low)}%"
        x2="{x(place.measured_high)}%"
        y1="11"
        y2="11"
        stroke={tone}
        stroke-width="3"
      />
      <circle cx="{x(place.measured_c)}%" cy="11" r="5.500" fill={tone} />
      {#if place.limit_c !== null && place.limit_c < high}<line
          x1="{x(place.limit_c)}%"
          x2="{x(place.limit_c)}%"
          y1="0"
          y2="22"
          stroke="var(--ink)"
          stroke-width="2"
        />{/if}
    </svg>
  </td>
  <td class="num text-right">{fixed(place.predicted_c)}</td>
  <td class="num text-right font-semibold">{fixed(place.measured_c)}</td>
  <td class="num text-right whitespace-nowrap">{signed(place.residual_k)} K</td>
  <td style:color={tone} title={place.because}
    >{place.conclusion}{#if place.conclusion !== "as predicted"}<span class="soft block text-[12.5px]"
        >{place.because}</span
      >{/if}</td
  >
</tr>
