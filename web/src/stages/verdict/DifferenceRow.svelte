<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { signed } from "$lib/units/format";

  /** One part: a bar from zero with its band, a grey strip for none, what is concluded. */
  let { part, number, most }: { part: Schemas["PartDifference"]; number: number; most: number } = $props();
  const NONE_K = 1;
  const x = $derived((kelvin: number) => 50 + (Math.min(Math.max(kelvin, -most), most) / most) * 50);
  const tone = $derived(
    part.conclusion === "cooler" ? "var(--holds)" : part.conclusion === "warmer" ? "var(--too-hot)" : "var(--soft)",
  );
  const shape = $derived(
    { cooler: "✓", warmer: "▲", "not counted": "△", "no difference": "–" }[part.conclusion] ?? "?",
  );
</script>

<tr>
  <td class="font-semibold whitespace-nowrap"><span class="soft num mr-2">{number}</span>{part.name}</td>
  <td class="bar">
    <svg width="100%" height="22" role="img" aria-label="{part.name}: {signed(part.equal_k)} K">
      <rect x="{x(-NONE_K)}%" width="{x(NONE_K) - x(-NONE_K)}%" y="0" height="22" fill="var(--sunk)" />
      <rect
        x="{Math.min(x(0), x(part.equal_k))}%"
        width="{Math.abs(x(part.equal_k) - x(0))}%"
        y="6"
        height="10"
        fill={tone}
        opacity={part.conclusion === "not counted" ? 0.35 : 1}
      />
      <line
        x1="{x(part.equal_k - part.equal_half_k)}%"
        x2="{x(part.equal_k + part.equal_half_k)}%"
        y1="11"
        y2="11"
        stroke="var(--ink)"
        stroke-width="2"
      />
      <line x1="50%" x2="50%" y1="0" y2="22" stroke="var(--ink)" />
    </svg>
  </td>
  <td class="num text-right whitespace-nowrap">{signed(part.equal_k)} ± {part.equal_half_k.toFixed(1)} K</td>
  <td class="num soft text-right whitespace-nowrap">{signed(part.measured_k)} K</td>
  <td class="num soft text-right whitespace-nowrap">{signed(part.predicted_k)} K</td>
  <td style:color={tone}
    ><span aria-hidden="true">{shape}</span>
    {part.conclusion}{#if part.because}<span class="soft block text-sm">{part.because}</span>{/if}</td
  >
</tr>

<style>
  .bar {
    min-width: 160px;
    width: 30%;
  }
</style>
