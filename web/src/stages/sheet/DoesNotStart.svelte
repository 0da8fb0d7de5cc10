<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Marks } from "$lib/state/marks.svelte";
  import Faults from "$lib/ui/Faults.svelte";

  /** It does not start: one exchange at a time, the likeliest first, each kept with what it showed. */
  let { build, marks, close }: { build: BuildState; marks: Marks; close: () => void } = $props();
  const asked = new Asked<Schemas["StartSuspect"][]>();
  type Found = "no change" | "it starts" | "other sign";
  const FOUND: Found[] = ["no change", "other sign", "it starts"];
  const PREFIX = "suspect-";
  const tried = $derived(
    Object.fromEntries(
      marks.all
        .filter((mark) => mark.kind === "tried" && mark.about.startsWith(PREFIX))
        .map((mark) => [mark.about.slice(PREFIX.length), mark.word as Found]),
    ),
  );
  const touched = $derived([
    ...new Set(
      [...marks.all]
        .reverse()
        .filter((mark) => mark.kind === "done" || mark.kind === "failed")
        .map((mark) => mark.about),
    ),
  ]);
  $effect(() => {
    const document = build.document;
    if (!document) return;
    const body = { document, touched: touched.slice(0, 300), tried };
    return asked.ask((as) => client.POST("/api/suspects", { ...as, body }), 0);
  });
  const first = $derived(asked.answer?.find((one) => one.tried === null)?.id);
</script>

<section class="panel" aria-label="It does not start">
  <header>
    <h2>It does not start</h2>
    <button class="button" onclick={close}>Back to the steps</button>
  </header>
  <p class="soft">One exchange at a time, each kept with what it showed. Mains plug out before a hand goes in.</p>
  <Faults faults={asked.faults} />
  <ol>
    {#each asked.answer ?? [] as one (one.id)}
      <li class:first={one.id === first} class:cleared={one.tried === "no change"}>
        <span class="num likely">{Math.round(one.likely)} %</span>
        <span class="grow">
          <strong>{one.name}</strong> <span class="soft">{one.because}</span><br />
          {one.exchange} <span class="soft">It clears {one.clears}.</span>
        </span>
        <span class="acts">
          {#each FOUND as found (found)}
            <button
              class="button"
              class:main={one.tried === found}
              aria-pressed={one.tried === found}
              disabled={!build.editable}
              onclick={() => marks.add(`${PREFIX}${one.id}`, "tried", { word: found })}>{found}</button
            >
          {/each}
        </span>
      </li>
    {/each}
  </ol>
</section>

<style>
  header {
    display: flex;
    justify-content: space-between;
    gap: 8px;
  }
  ol {
    display: grid;
    gap: 6px;
    margin-top: 8px;
  }
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
    align-items: center;
    border-left: 4px solid var(--line);
    padding: 4px 10px;
  }
  li.first {
    border-left-color: var(--accent);
    background: var(--ground);
  }
  li.cleared {
    opacity: 0.75;
  }
  .likely {
    width: 5ch;
    text-align: right;
  }
  .grow {
    flex: 1 1 260px;
  }
  .acts {
    display: flex;
    gap: 6px;
  }
  .acts .button {
    padding: 3px 9px;
  }
</style>
