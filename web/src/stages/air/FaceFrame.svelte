<script lang="ts">
  import type { Face } from "$lib/document/build";
  import type { Rect } from "$lib/drawing/faces";
  import { short } from "$lib/drawing/words";

  /** A face of the unfolded housing: its outline and name, what stands close to it, and which way things fall on it. */
  let {
    face,
    rect,
    note = "",
    fall = null,
    shut = false,
    fill = "var(--panel)",
  }: {
    face: Face;
    rect: Rect;
    note?: string;
    fall?: { x: number; y: number } | null;
    shut?: boolean;
    fill?: string;
  } = $props();
  const LENGTH = 16;
  const at = $derived({ x: rect.x + rect.w - 13, y: rect.y + rect.h - 13 });
  const turned = $derived(fall ? (Math.atan2(fall.y, fall.x) * 180) / Math.PI : 0);
</script>

<rect
  x={rect.x}
  y={rect.y}
  width={rect.w}
  height={rect.h}
  rx="6"
  {fill}
  stroke="var(--soft)"
  stroke-width={shut ? 3 : 1.5}
  stroke-dasharray={note.startsWith("wall") ? "4 3" : undefined}
/>
<text x={rect.x + 7} y={rect.y + 15} class="face">{face}</text>
{#if note}
  <text x={rect.x + rect.w - 7} y={rect.y + 15} text-anchor="end" class="note">{short(note, rect.w - 52)}</text>
{/if}
{#if fall}
  <path
    d="M{-LENGTH / 2} 0h{LENGTH}m-6 -5l6 5l-6 5"
    transform="translate({at.x} {at.y}) rotate({turned})"
    class="fall"
    aria-hidden="true"
  />
{/if}

<style>
  text {
    fill: var(--soft);
    font-size: 12px;
    user-select: none;
  }
  .face {
    font-weight: 650;
  }
  .fall {
    fill: none;
    stroke: var(--ink);
    stroke-width: 2;
  }
</style>
