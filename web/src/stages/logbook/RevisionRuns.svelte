<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { day, fixed, signed } from "$lib/units/format";

  /** The runs of one revision on the time line: what they gave against the revision before, what was noted, pictures. */
  let {
    buildId,
    cards,
    changes,
  }: {
    buildId: string;
    cards: Schemas["RunCard"][];
    changes: Schemas["MeasuredChange"][];
  } = $props();
  const colour = (change: Schemas["MeasuredChange"]) =>
    ({ cooler: "var(--holds)", warmer: "var(--too-hot)" })[change.conclusion] ?? "var(--soft)";
</script>

{#each changes as change (change.after)}
  <p class="mt-1 flex flex-wrap gap-x-3" data-testid="measured-change">
    <span class="soft">measured in {change.workload}:</span>
    <span
      ><span class="num" style:color={colour(change)}>{signed(change.measured_k)} ± {fixed(change.half_k)} K</span>
      on {change.part}, <span class="num">{signed(change.predicted_k)} K</span> by the model,
      {change.conclusion === "cooler" || change.conclusion === "warmer" ? "against" : `${change.conclusion} against`} revision
      {change.before_revision}</span
    >
  </p>
{/each}
{#if cards.length}
  <ul class="runs mt-2" aria-label="Runs of this revision">
    {#each cards as card (card.id)}
      <li>
        <span class="flex flex-wrap items-baseline gap-x-3">
          <a class="link" href={`#/build/${buildId}/verdict`}>{card.name}</a>
          <span class="soft text-sm">{card.workload}, {card.kind}, {day(card.created)}</span>
        </span>
        {#if card.said}<span class="block text-sm">{card.said}</span>{/if}
        {#if card.note}<span class="soft block text-sm">{card.note}</span>{/if}
        {#if card.pictures.length}
          <span class="mt-1 flex flex-wrap gap-1">
            {#each card.pictures as picture (picture.sha256)}
              <img
                src={`/api/runs/${card.id}/pictures/${picture.sha256}`}
                alt={picture.caption || "a picture of this run"}
                title={picture.caption}
                loading="lazy"
              />
            {/each}
          </span>
        {/if}
      </li>
    {/each}
  </ul>
{/if}

<style>
  .runs {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(min(280px, 100%), 1fr));
    gap: 8px 24px;
    border-left: 2px solid var(--line);
    padding-left: 12px;
  }
  img {
    width: 84px;
    height: 60px;
    object-fit: cover;
    border: 1px solid var(--line);
  }
</style>
