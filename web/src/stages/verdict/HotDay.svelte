<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { fixed } from "$lib/units/format";

  /** The day that the build is made for, hatched as assumed and filled as learnt, each part against its limit. */
  let { day }: { day: Schemas["HotDay"] } = $props();
  const low = $derived(Math.min(...day.places.flatMap((p) => [p.before_low, p.after_low])) - 2);
  const high = $derived(Math.max(...day.places.flatMap((p) => [p.before_high, p.after_high, p.limit_c ?? 0])) + 2);
  const x = $derived((celsius: number) => ((celsius - low) / (high - low)) * 100);
  const wide = $derived((from: number, to: number) => Math.max(x(to) - x(from), 0.4));
  const spare = (p: Schemas["PlaceBefore"]) => (p.limit_c === null ? null : p.limit_c - p.after_c);
</script>

<section class="panel" aria-label="The hot day">
  <p class="soft">What this says about the hot day</p>
  <h2>{day.workload_name || day.workload}, room {fixed(day.room_c)} °C</h2>
  {#each day.places as place (place.address)}
    {@const left = spare(place)}
    <div class="mt-2" data-testid="hot-day">
      <p class="flex justify-between gap-2">
        <strong>{place.name}</strong>
        <span class="num whitespace-nowrap"
          ><span class="soft">{fixed(place.before_c)} →</span> <strong>{fixed(place.after_c)}</strong>
          <span class="soft">± {fixed((place.after_high - place.after_low) / 2)}</span></span
        >
      </p>
      <svg width="100%" height="20" role="img" aria-label="{place.name} before and after">
        <rect
          x="{x(place.before_low)}%"
          width="{wide(place.before_low, place.before_high)}%"
          y="1"
          height="7"
          rx="2"
          fill="var(--hatch)"
          stroke="var(--soft)"
          stroke-dasharray="3 2"
        />
        <rect
          x="{x(place.after_low)}%"
          width="{wide(place.after_low, place.after_high)}%"
          y="10"
          height="8"
          rx="2"
          fill={place.status === "too_hot"
            ? "var(--too-hot)"
            : place.status === "holds"
              ? "var(--holds)"
              : "var(--tight)"}
        />
        {#if place.limit_c !== null}<line
            x1="{x(place.limit_c)}%"
            x2="{x(place.limit_c)}%"
            y1="0"
            y2="20"
            stroke="var(--ink)"
            stroke-width="2"
          />{/if}
      </svg>
      <p class="soft text-sm">
        {left === null
          ? "no limit stated"
          : left >= 0
            ? `${fixed(left)} K to spare`
            : `${fixed(-left)} K over its limit`}{place.read ? "" : "; no run has read it"}
      </p>
    </div>
  {/each}
</section>
