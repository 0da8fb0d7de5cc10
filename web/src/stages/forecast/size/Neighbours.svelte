<script lang="ts">
  import { optionWords } from "./filter";
  import type { Detail, Studies } from "$lib/state/study.svelte";

  /** The next larger and next smaller along each axis, with whether they are worth it. */
  let { studies, detail, names }: { studies: Studies; detail: Detail; names: Record<string, string> } = $props();
  const chosen = $derived(studies.optionsOf(detail.number));
  const larger = $derived(detail.neighbours.filter((n) => step(n.number, n.address) > 0));
  const smaller = $derived(detail.neighbours.filter((n) => step(n.number, n.address) < 0));

  function step(number: number, address: string): number {
    const axis = studies.axes.findIndex((a) => a.address === address);
    return studies.optionsOf(number)[axis]! - chosen[axis]!;
  }
  /** Speeds that were chosen anew so that it is no louder. */
  const anew = (number: number, address: string) =>
    studies.optionsOf(number).flatMap((option, axis) => {
      const other = studies.axes[axis]?.address !== address && option !== chosen[axis];
      return other ? [optionWords(studies, axis, option)] : [];
    });
  const nameOf = (address: string) => (names[address] ?? address).replace(", a fan on each", "");
</script>

{#snippet rows(list: Detail["neighbours"], title: string)}
  {#if list.length}
    <h3>{title}</h3>
    <ul>
      {#each list as neighbour (neighbour.number)}
        <li>
          <button onclick={() => studies.choose(neighbour.number)} class:worth={neighbour.worth_it}>
            <strong>{nameOf(neighbour.address)} {neighbour.label}</strong>
            {#if neighbour.at.length}with {anew(neighbour.number, neighbour.address).join(", ")}{/if}
            {neighbour.says}.
          </button>
        </li>
      {/each}
    </ul>
  {/if}
{/snippet}

<div class="beside">
  {@render rows(larger, "The next larger")}
  {@render rows(smaller, "The next smaller")}
</div>

<style>
  h3 {
    font-weight: 650;
    margin-top: 8px;
  }
  li button {
    text-align: left;
    cursor: pointer;
    font-size: 13.5px;
    color: var(--soft);
    padding: 1px 4px;
    border-radius: 5px;
  }
  li button strong {
    color: var(--ink);
  }
  li button.worth strong {
    color: var(--holds);
  }
  li button:hover {
    background: var(--sunk);
  }
</style>
