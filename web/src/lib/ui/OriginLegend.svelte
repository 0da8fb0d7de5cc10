<script lang="ts">
  import OriginDot from "./OriginDot.svelte";
  import type { OriginKind } from "./origins";

  /** What the dots beside figures mean. */
  const SHOWN: [OriginKind, string][] = [
    ["stated", "yours or measured"],
    ["datasheet", "data sheet"],
    ["class", "class figure"],
    ["estimate", "guess, rule of thumb"],
  ];
</script>

<ul aria-label="Where figures come from">
  {#each SHOWN as [kind, words] (kind)}<li><OriginDot {kind} quiet /> {words}</li>{/each}
</ul>

<style>
  ul {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 14px;
    color: var(--soft);
    font-size: 13px;
  }
</style>
