<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Runs } from "$lib/state/runs.svelte";

  /** Pictures of a run: the paste print, the meter, how the hoses lay; dropped, pasted or picked, each with a line under it. */
  let { build, runs }: { build: BuildState; runs: Runs } = $props();
  const run = $derived(runs.run!);
  const pictures = $derived(run.document.pictures ?? []);
  let busy = $state(false);
  let large = $state("");

  async function take(files: Iterable<File> | null | undefined) {
    const given = [...(files ?? [])];
    if (!given.length) return;
    busy = true;
    await runs.addPictures(given);
    busy = false;
  }

  const source = (sha256: string) => `/api/runs/${run.id}/pictures/${sha256}`;
</script>

<section
  class="mt-3"
  aria-label="Pictures"
  ondragover={(event) => event.preventDefault()}
  ondrop={(event) => {
    event.preventDefault();
    if (build.editable) void take(event.dataTransfer?.files);
  }}
  onpaste={(event) => {
    if (build.editable) void take(event.clipboardData?.files);
  }}
>
  <div class="flex flex-wrap items-center gap-3">
    <h3>Pictures</h3>
    {#if build.editable}
      <label class="button cursor-pointer text-sm"
        >{busy ? "Taking it in …" : "Add pictures"}
        <input
          class="sr-only"
          type="file"
          accept="image/png,image/jpeg,image/webp"
          multiple
          disabled={busy}
          onchange={(event) => {
            void take(event.currentTarget.files);
            event.currentTarget.value = "";
          }}
        /></label
      >
      <span class="soft text-sm">PNG, JPEG or WebP, 8 MB each; what a camera writes beside a picture is not kept.</span>
    {/if}
  </div>
  {#if pictures.length}
    <ul class="sheets mt-2">
      {#each pictures as picture (picture.sha256)}
        <li>
          <button
            class="frame"
            class:large={large === picture.sha256}
            aria-expanded={large === picture.sha256}
            aria-label={picture.caption || "Picture"}
            onclick={() => (large = large === picture.sha256 ? "" : picture.sha256)}
          >
            <img
              src={source(picture.sha256)}
              alt={picture.caption || "a picture of this run"}
              width={picture.width}
              height={picture.height}
              loading="lazy"
            />
          </button>
          {#if build.editable}
            <span class="flex gap-1">
              <input
                class="field min-w-0 grow text-sm"
                aria-label="Caption"
                placeholder="what it shows"
                maxlength="200"
                value={picture.caption ?? ""}
                onchange={(event) => runs.captionPicture(picture.sha256, event.currentTarget.value)}
              />
              <button class="button text-sm" onclick={() => runs.removePicture(picture.sha256)}>Remove</button>
            </span>
          {:else}<span class="soft text-sm">{picture.caption}</span>{/if}
        </li>
      {/each}
    </ul>
  {/if}
</section>

<style>
  .sheets {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(min(220px, 100%), 1fr));
    gap: 12px;
  }
  .sheets li {
    display: flex;
    flex-direction: column;
    gap: 4px;
  }
  .sheets li:has(.large) {
    grid-column: 1 / -1;
  }
  .frame {
    display: block;
    padding: 0;
    border: 1px solid var(--line);
    background: none;
    cursor: zoom-in;
  }
  .frame img {
    display: block;
    width: 100%;
    height: 150px;
    object-fit: cover;
  }
  .frame.large {
    cursor: zoom-out;
  }
  .frame.large img {
    height: auto;
    max-height: 80vh;
    object-fit: contain;
  }
</style>
