<script lang="ts">
  import type { Figure } from "$lib/document/build";
  import { kindOf, ORIGIN_WORDS, SHAPES, type OriginKind } from "./origins";

  /** Where a figure comes from, as a dot. */
  let {
    figure,
    kind,
    quiet = false,
  }: {
    figure?: Figure | null | undefined;
    kind?: OriginKind;
    /** beside its own word: said once */
    quiet?: boolean;
  } = $props();
  const of = $derived(kind ?? kindOf(figure));
</script>

<svg
  viewBox="0 0 12 12"
  width="11"
  height="11"
  role={quiet ? undefined : "img"}
  aria-hidden={quiet}
  aria-label={quiet ? undefined : ORIGIN_WORDS[of]}
  class="dot {SHAPES[of]}-dot"
>
  {#if !quiet}<title>{ORIGIN_WORDS[of]}</title>{/if}
  <circle cx="6" cy="6" r="4.4" />
  {#if SHAPES[of] === "half"}<path d="M6 1.6a4.4 4.4 0 0 0 0 8.8z" />{/if}
</svg>

<style>
  .dot {
    display: inline-block;
    vertical-align: -1px;
  }
  circle {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.3;
  }
  path,
  .full-dot circle {
    fill: var(--ink);
  }
  .ring-dot circle {
    stroke: var(--soft);
  }
  .dots-dot circle {
    stroke: var(--tight);
    stroke-width: 1.6;
    stroke-dasharray: 1.7 1.75;
  }
</style>
