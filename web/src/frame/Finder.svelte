<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { everything, found, type Found } from "$lib/document/find";
  import { VIEWS } from "../stages/forecast/views";

  /** Any part, place, figure, workload or question; Enter opens what is marked, arrows move the mark. */
  let { build, go, close }: { build: BuildState; go: (stage: string) => void; close: () => void } = $props();
  const MOST = 10;
  let text = $state("");
  let at = $state(0);
  type Hit = { key: string; label: string; says: string; open: () => void };
  const all = $derived(build.document ? everything(build.document) : []);
  const questions: Hit[] = VIEWS.map((item) => ({
    key: `forecast/${item.id}`,
    label: item.name,
    says: item.says,
    open: () => go(`forecast/${item.id}`),
  }));
  const hits: Hit[] = $derived([
    ...questions.filter((item) => text && item.label.toLowerCase().includes(text.toLowerCase())),
    ...found(all, text, MOST).map((item) => ({ key: `${item.id} ${item.label}`, ...item, open: () => show(item) })),
  ]);
  const marked = $derived(Math.min(at, hits.length - 1));

  function show(item: Found) {
    go("route");
    if (item.sort === "workload") build.choose(item.id);
    else build.sheet = item.id;
  }

  function open(hit: Hit | undefined) {
    if (!hit) return;
    hit.open();
    close();
  }

  function onkeydown(event: KeyboardEvent) {
    if (event.key === "Enter") open(hits[marked]);
    else if (event.key === "ArrowDown") at = Math.min(marked + 1, hits.length - 1);
    else if (event.key === "ArrowUp") at = Math.max(marked - 1, 0);
    else return;
    event.preventDefault();
  }

  const focus = (node: HTMLInputElement) => node.focus();
</script>

<section class="sheet panel" aria-label="Find">
  <input
    class="field w-full"
    placeholder="a part, a figure, a workload, a question"
    aria-label="Find a part or a figure"
    bind:value={text}
    oninput={() => (at = 0)}
    {@attach focus}
    {onkeydown}
  />
  <ul class="mt-2">
    {#each hits as hit, i (hit.key)}
      <li>
        <button class="hit" class:on={i === marked} onclick={() => open(hit)}
          ><span>{hit.label}</span><span class="soft num">{hit.says}</span></button
        >
      </li>
    {:else}
      <li class="soft px-2">nothing found</li>
    {/each}
  </ul>
</section>

<style>
  .sheet {
    position: fixed;
    left: 50%;
    top: 90px;
    width: 460px;
    margin-left: -230px;
    z-index: 30;
    box-shadow: 0 8px 30px rgb(0 0 0 / 0.25);
  }
  .hit {
    display: flex;
    justify-content: space-between;
    gap: 12px;
    width: 100%;
    text-align: left;
    padding: 3px 8px;
    border-radius: 6px;
    cursor: pointer;
  }
  .hit.on,
  .hit:hover {
    background: var(--sunk);
  }
</style>
