<script lang="ts">
  import type { StepPictures } from "$lib/state/step-pictures.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import { clock, day } from "$lib/units/format";

  /** Pictures of a step: what will be hidden later, pins noted, how a hose lies. */
  let { pictures, about, name, editable }: { pictures: StepPictures; about: string; name: string; editable: boolean } =
    $props();
  const own = $derived(pictures.of(about));
  let large = $state("");
</script>

{#if editable || own.length}
  <div class="row">
    {#if editable}
      <label class="button cursor-pointer"
        >{pictures.busy ? "Taking it in …" : "Picture"}
        <input
          class="sr-only"
          type="file"
          accept="image/png,image/jpeg,image/webp"
          multiple
          disabled={pictures.busy}
          onchange={(event) => {
            void pictures.add(about, [...(event.currentTarget.files ?? [])]);
            event.currentTarget.value = "";
          }}
        /></label
      >
    {/if}
    {#each own as one (one.sha256)}
      <button
        class="frame"
        class:large={large === one.sha256}
        aria-expanded={large === one.sha256}
        aria-label="Picture of {name}, {day(one.at)} {clock(one.at)}"
        onclick={() => (large = large === one.sha256 ? "" : one.sha256)}
      >
        <img src={pictures.source(one)} alt="" width={one.width} height={one.height} loading="lazy" />
      </button>
      {#if large === one.sha256}
        <span class="soft text-sm"
          >{one.who}, {day(one.at)}, {clock(one.at)}
          {#if editable}<button class="link" onclick={() => pictures.remove(one)}>take it away</button>{/if}</span
        >
      {/if}
    {/each}
  </div>
  <Faults faults={pictures.faults} alert />
{/if}

<style>
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
  }
  .frame {
    padding: 0;
    border: 1px solid var(--line);
    background: none;
    cursor: zoom-in;
  }
  .frame img {
    display: block;
    width: 64px;
    height: 44px;
    object-fit: cover;
  }
  .frame.large {
    cursor: zoom-out;
    flex-basis: 100%;
  }
  .frame.large img {
    width: 100%;
    height: auto;
    max-height: 70vh;
    object-fit: contain;
  }
</style>
