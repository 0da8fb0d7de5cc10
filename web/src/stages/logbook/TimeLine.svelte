<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { Marks } from "$lib/state/marks.svelte";
  import { StepPictures } from "$lib/state/step-pictures.svelte";
  import { clock, day } from "$lib/units/format";
  import Faults from "$lib/ui/Faults.svelte";
  import { found, markdownOf, namesIn, storyOf, WHOLE } from "./story";

  /** One time line of what happened to a build; remarks and incidents are added here, and found again. */
  let {
    build,
    revisions,
    runs,
  }: { build: BuildState; revisions: Schemas["RevisionOut"][]; runs: Schemas["RunCard"][] } = $props();
  const marks = new Marks();
  $effect(() => marks.open(build.id));
  let search = $state("");
  let word = $state("");
  let about = $state(WHOLE);
  let kind = $state<"remark" | "incident">("remark");
  const parts = $derived(build.document?.parts ?? []);
  const pictures = new StepPictures();
  $effect(() => void pictures.open(build.id));
  const story = $derived(storyOf(revisions, runs, marks.all, namesIn(build.document), pictures.kept));
  const shown = $derived(found(story, search));
  const text = $derived(markdownOf(build.document?.name ?? "", story, day));

  function add(event: SubmitEvent) {
    event.preventDefault();
    if (!word.trim()) return;
    marks.add(about, kind, { word: word.trim() });
    word = "";
  }
</script>

<section class="panel mt-3" aria-label="Time line">
  <header>
    <h2>Time line</h2>
    <input class="field" type="search" aria-label="Search the time line" placeholder="search" bind:value={search} />
    <a
      class="button"
      href={`data:text/markdown;charset=utf-8,${encodeURIComponent(text)}`}
      download="{build.document?.name}.md">Story as Markdown</a
    >
  </header>
  <Faults faults={marks.faults} alert />
  {#if build.editable}
    <form onsubmit={add}>
      <select class="field" aria-label="What kind" bind:value={kind}>
        <option value="remark">remark</option>
        <option value="incident">incident</option>
      </select>
      <select class="field" aria-label="About" bind:value={about}>
        <option value={WHOLE}>the whole build</option>
        {#each parts as part (part.id)}<option value={part.id}>{part.name || part.id}</option>{/each}
      </select>
      <input
        class="field grow"
        aria-label="What happened"
        placeholder={kind === "incident"
          ? "a blade broke, the pump died after two years …"
          : "tried, did not help, because …"}
        maxlength="500"
        bind:value={word}
      />
      <button class="button" disabled={!word.trim()}>Add</button>
    </form>
  {/if}
  <ol>
    {#each shown as entry, i (i)}
      <li class:grave={entry.grave}>
        <span class="num soft">{day(new Date(entry.at))}, {clock(new Date(entry.at).toISOString())}</span>
        <strong>{entry.grave ? "✕ " : ""}{entry.what}</strong>
        <span class="grow">{entry.text}</span>
        {#if entry.picture}
          {@const one = pictures.kept.find((kept) => kept.sha256 === entry.picture)}
          {#if one}<a href={pictures.source(one)} target="_blank" rel="noopener"
              ><img src={pictures.source(one)} alt="Picture of {entry.text}" width="64" height="44" loading="lazy" /></a
            >{/if}
        {/if}
        <span class="soft">{entry.who}</span>
      </li>
    {:else}<li class="soft">{search ? "Nothing says that." : "Nothing has happened yet."}</li>{/each}
  </ol>
</section>

<style>
  header,
  form,
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
    align-items: baseline;
  }
  header h2,
  .grow {
    flex: 1;
  }
  form {
    margin-top: 6px;
  }
  .grow {
    min-width: 160px;
  }
  ol {
    margin-top: 8px;
    max-height: 420px;
    overflow: auto;
  }
  li {
    border-top: 1px solid var(--line);
    padding: 3px 0;
    font-size: 14px;
  }
  li .num {
    width: 150px;
    font-size: 13px;
  }
  li:has(img) {
    align-items: center;
  }
  li img {
    height: 44px;
    object-fit: cover;
  }
  .grave strong {
    color: var(--too-hot);
  }
</style>
