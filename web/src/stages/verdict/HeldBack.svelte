<script lang="ts">
  import type { Schemas } from "$lib/api/client";

  /** What held each source back in a load, with the evidence in one line. */
  let { held }: { held: Schemas["HeldBackOut"][] } = $props();
  const SHAPES: Record<string, string> = { heat: "▲", nothing: "✓", "cannot tell": "?" };
</script>

{#if held.length}
  <section class="panel mt-3" aria-label="What held it back">
    <h2>What held it back</h2>
    <ul class="mt-1 grid gap-1.5">
      {#each held as one (one.source)}
        <li class="flex gap-2">
          <span class="mark" class:heat={one.by === "heat"} aria-hidden="true">{SHAPES[one.by] ?? "▪"}</span>
          <span>
            <strong>{one.name}: {one.by}</strong>
            <span class="block">{one.says}</span>
          </span>
        </li>
      {/each}
    </ul>
  </section>
{/if}

<style>
  .mark {
    width: 1.2em;
    color: var(--holds);
    font-weight: 700;
  }
  .heat {
    color: var(--too-hot);
  }
</style>
