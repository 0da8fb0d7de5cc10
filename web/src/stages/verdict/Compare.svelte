<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import { signed } from "$lib/units/format";

  /** Another run held against the chosen one: one sentence, each part over the room, what else was changed. */
  let { cards, chosen }: { cards: Schemas["RunCard"][]; chosen: string } = $props();
  let other = $state("");
  const asked = new Asked<Schemas["CompareOut"]>();
  const others = $derived(cards.filter((card) => card.id !== chosen));
  const nameOf = (id: string) => cards.find((card) => card.id === id)?.name ?? "";
  const found = $derived(other ? asked.answer : null);

  $effect(() => {
    const path = { run_id: chosen, other_id: other };
    if (!other || other === chosen) return;
    return asked.ask(() => client.GET("/api/runs/{run_id}/compare/{other_id}", { params: { path } }), 0);
  });
</script>

{#if others.length}
  <section class="panel mt-3" aria-label="Compare">
    <label class="flex flex-wrap items-center gap-2">
      <span class="font-semibold">Hold another run against this one</span>
      <select class="field" bind:value={other}>
        <option value="">none</option>
        {#each others as card (card.id)}<option value={card.id}>{card.name}</option>{/each}
      </select>
    </label>
    {#if other && other !== chosen}
      <Faults faults={asked.faults} alert />
      {#if asked.busy}<p class="soft mt-2" role="status">Comparing …</p>{/if}
      {#if found && !asked.busy}
        <p class="mt-2 text-lg font-semibold" data-testid="comparison">{found.sentence}</p>
        {#if found.parts.length}
          <div class="overflow-x-auto">
            <table class="plain mt-2">
              <thead>
                <tr>
                  <th class="min-w-40">{nameOf(other)} over {nameOf(chosen)}</th>
                  <th class="text-right">measured</th>
                  <th class="text-right">at equal watts and speeds</th>
                  <th class="text-right">predicted</th>
                </tr>
              </thead>
              <tbody>
                {#each found.parts as part (part.role)}
                  <tr>
                    <td>
                      <span class="font-semibold">{part.name}</span>: {part.conclusion}
                      {#if part.because}<span class="soft block text-sm">{part.because}</span>{/if}
                    </td>
                    <td class="num text-right whitespace-nowrap"
                      >{signed(part.measured_k)} ± {part.measured_half_k.toFixed(1)} K</td
                    >
                    <td class="num text-right whitespace-nowrap"
                      >{signed(part.equal_k)} ± {part.equal_half_k.toFixed(1)} K</td
                    >
                    <td class="num soft text-right whitespace-nowrap">{signed(part.predicted_k)} K</td>
                  </tr>
                {/each}
              </tbody>
            </table>
          </div>
        {/if}
        {#if found.changes.length}
          <h3 class="mt-2 font-semibold">
            {found.confounded ? "More than one thing was changed" : "What else differs"}
          </h3>
          <ul>
            {#each found.changes as change (change.what)}
              <li>
                {change.what}{#if change.kelvins !== null}<span class="soft"
                    >, {signed(change.kelvins)} K by the model</span
                  >{/if}
              </li>
            {/each}
          </ul>
        {/if}
        <p class="soft mt-2 text-sm">
          Kelvins over each run's own room; the band holds 90 %. Differences under 1 K count as none.
        </p>
      {/if}
    {/if}
  </section>
{/if}
