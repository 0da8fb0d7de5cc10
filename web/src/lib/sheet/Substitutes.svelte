<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import type { Part } from "$lib/document/build";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import { shelf } from "$lib/state/shelf.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import { signed } from "$lib/units/format";
  import { larger, standingIn } from "./substitutes";

  /** The nearest of the shelf in a part's place: what each does in kelvins, decibels and millimetres. */
  let { build, part }: { build: BuildState; part: Part } = $props();
  const asked = new Asked<Schemas["Substitute"][]>();
  const ASK_MS = 250;
  $effect(() => {
    const { document, workloadId: workload } = build;
    if (!document || !workload) return;
    const body = { document, part: part.id, workload };
    return asked.ask((as) => client.POST("/api/shelf/instead", { ...as, body }), ASK_MS);
  });

  function putIn(one: Schemas["Substitute"]) {
    const id = part.id;
    const item = shelf.items.find((other) => other.id === one.item);
    build.edit(`${part.name || id}: ${one.name} in its place`, (draft) => {
      const at = draft.parts.findIndex((other) => other.id === id);
      const old = draft.parts[at];
      if (old) draft.parts[at] = standingIn(old, one, item);
    });
  }
</script>

<Faults faults={asked.faults} />
{#if asked.answer}
  <ul class="instead" aria-label="What could stand in its place">
    {#each asked.answer as one (one.item)}
      <li>
        <span class="what"
          >{one.name}{#if one.tried.length}<span class="warn"> did not help: {one.tried.join("; ")}</span>{/if}</span
        >
        {#if one.why_not}
          <span class="soft">{one.why_not}</span>
        {:else}
          <span class="num" title={one.place}
            >{signed(-(one.won_k ?? 0), 1)} K <span class="soft">{one.place}</span></span
          >
          <span class="num">{signed(one.louder_db ?? 0, 1)} dBA</span>
        {/if}
        <span class="num soft">{larger(one.larger_mm)}</span>
        {#if build.editable && !one.why_not}<button class="link" onclick={() => putIn(one)}>put it in</button>{/if}
      </li>
    {:else}
      <li class="soft">Nothing on the shelf does the same work.</li>
    {/each}
  </ul>
{:else if !asked.faults.length}
  <p class="soft">Trying what the shelf has …</p>
{/if}

<style>
  .instead {
    display: grid;
    gap: 3px;
    font-size: 13px;
  }
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 10px;
    align-items: baseline;
  }
  .what {
    flex: 1 1 150px;
  }
</style>
