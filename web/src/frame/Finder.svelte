<script lang="ts">
  import type { BuildState } from "$lib/build.svelte";
  import { findable } from "$lib/document/build";

  let { build, go, close }: { build: BuildState; go: (stage: string) => void; close: () => void } = $props();
  let text = $state("");
  const all = $derived(build.document ? findable(build.document) : []);
  const found = $derived(all.filter((item) => item.label.toLowerCase().includes(text.toLowerCase())).slice(0, 9));

  function open(id: string | undefined) {
    if (!id) return;
    if (build.document?.workloads.some((w) => w.id === id)) build.choose(id);
    else build.sheet = id;
    go("route");
    close();
  }

  const focus = (node: HTMLInputElement) => node.focus();
</script>

<section class="sheet panel" aria-label="Find">
  <input
    class="field w-full"
    placeholder="part, place, loop or workload"
    aria-label="Find a part or a figure"
    bind:value={text}
    {@attach focus}
    onkeydown={(event) => event.key === "Enter" && open(found[0]?.id)}
  />
  <ul class="mt-2">
    {#each found as item (item.id)}
      <li>
        <button class="w-full cursor-pointer rounded px-2 py-1 text-left hover:underline" onclick={() => open(item.id)}
          >{item.label}</button
        >
      </li>
    {:else}
      <li class="soft px-2">nothing is called that</li>
    {/each}
  </ul>
</section>

<style>
  .sheet {
    position: fixed;
    left: 50%;
    top: 90px;
    width: 420px;
    margin-left: -210px;
    z-index: 30;
    box-shadow: 0 8px 30px rgb(0 0 0 / 0.25);
  }
</style>
