<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { fixed } from "$lib/units/format";

  /** One thing learnt as a factor: what was assumed, hatched, and what the runs say, solid, on one axis of factors. */
  let { unknown }: { unknown: Schemas["LearntUnknown"] } = $props();
  const MOST = Math.log(2);
  const x = (factor: number) => 50 + (Math.min(Math.max(Math.log(factor), -MOST), MOST) / MOST) * 50;
</script>

<tr>
  <td
    ><span class="font-semibold">{unknown.name}</span><span class="soft block text-sm"
      >{unknown.chosen ? "asked for" : "moved along"}{unknown.says ? `; ${unknown.says}` : ""}</span
    ></td
  >
  <td>
    <svg
      width="100%"
      height="26"
      role="img"
      aria-label="{unknown.name}: assumed × {fixed(unknown.assumed_low, 2)} to {fixed(
        unknown.assumed_high,
        2,
      )}, learnt × {fixed(unknown.factor, 2)}"
    >
      <line x1="50%" x2="50%" y1="0" y2="26" stroke="var(--ink)" />
      <rect
        x="{x(unknown.assumed_low)}%"
        width="{x(unknown.assumed_high) - x(unknown.assumed_low)}%"
        y="3"
        height="8"
        rx="2"
        fill="var(--hatch)"
        stroke="var(--soft)"
        stroke-dasharray="3 2"
      />
      <rect
        x="{x(unknown.low)}%"
        width="{Math.max(x(unknown.high) - x(unknown.low), 0.6)}%"
        y="14"
        height="9"
        rx="2"
        fill={unknown.chosen ? "var(--ink)" : "var(--soft)"}
      />
      <circle cx="{x(unknown.factor)}%" cy="18.500" r="3" fill="var(--panel)" />
    </svg>
  </td>
  <td class="num text-right whitespace-nowrap"
    ><strong>× {fixed(unknown.factor, 2)}</strong>
    <span class="soft block text-sm">{fixed(unknown.low, 2)} to {fixed(unknown.high, 2)}</span></td
  >
</tr>
