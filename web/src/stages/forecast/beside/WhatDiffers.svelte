<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { addressOf } from "$lib/document/addresses";
  import { labelOf } from "$lib/document/fields";

  /** What stands otherwise than in the first option, by address. */
  type Column = { label: string; beside: Schemas["Beside"] | null };
  let { columns }: { columns: Column[] } = $props();
  const SHOWN = 14;
  const compared = $derived(columns.filter((column) => column.beside).slice(1));
  const plain = (value: unknown): string => {
    if (value === null || value === undefined) return "not there";
    if (typeof value === "object" && "value" in value) return plain((value as { value: unknown }).value);
    const text = typeof value === "string" ? value.replaceAll("_", " ") : JSON.stringify(value);
    return text.length > 44 ? `${text.slice(0, 43)}…` : text;
  };
  const wordsOf = (address: string) => {
    const { owner, field, key } = addressOf(address);
    return [owner, ...(field ? [labelOf(field)] : []), ...(key ? [key] : [])].join(" · ");
  };
</script>

{#if compared.length}
  <section class="panel mt-3" aria-label="What differs">
    <h2>What differs from the first</h2>
    <div class="lists">
      {#each compared as column, i (i)}
        {@const all = column.beside?.differences ?? []}
        <div>
          <p class="font-semibold">
            {column.label} <span class="soft">{all.length} {all.length === 1 ? "figure" : "figures"}</span>
          </p>
          {#if all.length > 3}
            <p class="soft text-sm">More than one thing differs, so the difference cannot be pinned on one.</p>
          {/if}
          <ul class="text-sm">
            {#each all.slice(0, SHOWN) as item (item.address)}
              <li>
                <strong>{wordsOf(item.address)}</strong>
                <span class="num">{plain(item.first)} → {plain(item.second)}</span>
              </li>
            {:else}<li class="soft">nothing</li>{/each}
            {#if all.length > SHOWN}<li class="soft">and {all.length - SHOWN} more</li>{/if}
          </ul>
        </div>
      {/each}
    </div>
  </section>
{/if}

<style>
  .lists {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
    gap: 14px;
    margin-top: 6px;
  }
  li {
    overflow-wrap: anywhere;
  }
</style>
