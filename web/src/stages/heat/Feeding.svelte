<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { partsOf, valueOf } from "$lib/document/build";
  import { fixed, watts } from "$lib/units/format";

  /** What the supplies have to carry in the hardest workload. */
  let { build }: { build: BuildState } = $props();
  const supplies = $derived(partsOf(build.document!, "supply"));
  const most = $derived(
    Math.max(
      0,
      ...build.document!.workloads.map((workload) =>
        Object.values(workload.watts).reduce((sum: number, figure) => sum + (valueOf(figure) ?? 0), 0),
      ),
    ),
  );
</script>

<section class="panel mt-3">
  <h2>What feeds it</h2>
  {#each supplies as supply (supply.id)}
    {@const rating = valueOf(supply.rating_w)}
    <p class="mt-1">
      <button class="link" onclick={() => (build.sheet = supply.id)}>{supply.name || supply.id}</button>:
      {#if rating}
        <span class="num">{watts(rating)}</span> rated{#if supplies.length === 1}, <span class="num"
            >{fixed((100 * most) / rating, 0)} %</span
          >
          asked at most. <span class="soft">It wastes least at about half its rating.</span>{/if}
      {:else}<span class="soft">no rating stated</span>{/if}
    </p>
  {:else}
    <p class="soft">No supply is in the build: what it would lose is not counted.</p>
  {/each}
  <p class="soft mt-1 text-sm">
    A full-length graphics slot gives 75 W, a x4 one 25 W; a fan header about 1 A (common practice).
  </p>
</section>

<style>
  .link {
    font-weight: 600;
    cursor: pointer;
    text-decoration: underline;
    text-decoration-color: var(--accent);
  }
</style>
