<script lang="ts">
  import Toast from "flowbite-svelte/Toast.svelte";
  import { pathInWords } from "$lib/document/merge";
  import type { BuildState } from "$lib/state/build.svelte";
  import { lookElsewhere, watchElsewhere } from "$lib/state/elsewhere";

  /** What somebody else, or another window, changed in the build in view: taken over and told, or asked where it clashes. */
  let { build }: { build: BuildState } = $props();
  $effect(() => watchElsewhere(build, () => document.hidden));
  const back = () => {
    if (!document.hidden) void lookElsewhere(build);
  };
  const SHOWN = 4;
  const clashes = $derived(
    (build.conflict?.clashes ?? []).map((path) => (build.document ? pathInWords(build.document, path) : path)),
  );
  const more = $derived(clashes.length - SHOWN);
</script>

<svelte:document onvisibilitychange={back} />

{#if build.conflict}
  <div class="banner" role="alert">
    <span class="grow"
      >Changed here and elsewhere: <b>{clashes.slice(0, SHOWN).join("; ")}</b>{more > 0 ? ` and ${more} more` : ""}.
      Nothing was overwritten; all else that either changed stays.</span
    >
    <button class="button" onclick={() => build.resolve("theirs")}>Take theirs</button>
    <button class="button" onclick={() => build.resolve("mine")}>Keep mine</button>
  </div>
{/if}
{#if build.news !== null}
  <Toast role="status" closeAriaLabel="Close" onclose={() => (build.news = null)}
    >Changed elsewhere and now in view: {build.news}</Toast
  >
{/if}
