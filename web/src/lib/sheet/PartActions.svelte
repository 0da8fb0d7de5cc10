<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Part } from "$lib/document/build";
  import { isLocked, toggleLock } from "$lib/document/locks";
  import { copyPart, removePart, replacePart } from "$lib/document/parts";
  import { copyOf, shelf, worthKeeping } from "$lib/state/shelf.svelte";
  import Substitutes from "./Substitutes.svelte";

  /** What may be done with a whole part: put on the shelf, copied, replaced by another, taken out. */
  let { build, part }: { build: BuildState; part: Part } = $props();
  void shelf.load();
  let said = $state("");
  const name = $derived(part.name || part.id);
  const makesHeat = $derived(part.kind === "source" || part.kind === "supply");
  const others = $derived(makesHeat ? [] : shelf.found("", [part.kind]));

  async function keep() {
    const copy = build.document && worthKeeping(build.document, part.id);
    if (!copy) return;
    const faults = await shelf.put(name, copy);
    said = faults.length ? faults.map((fault) => `${fault.where}: ${fault.what}`).join("; ") : "Saved to your shelf.";
  }

  function copy() {
    const id = part.id;
    build.edit(`copy ${name}`, (draft) => (build.sheet = copyPart(draft, id) ?? build.sheet));
  }

  function replace(itemId: string) {
    const item = others.find((other) => other.id === itemId);
    const id = part.id;
    if (item) build.edit(`${name}: replaced by ${item.name}`, (draft) => replacePart(draft, id, copyOf(item)));
  }

  let looking = $state(false);
  const kept = $derived(shelf.items.find((item) => item.own && item.id === part.from_shelf?.item));
  let word = $state("");
  async function noteTried(event: SubmitEvent) {
    event.preventDefault();
    if (!kept || !word.trim()) return;
    const faults = await shelf.tried(kept.id, word.trim(), build.document?.name ?? "");
    said = faults.length ? faults.map((fault) => fault.what).join("; ") : "Kept with the part on your shelf.";
    if (!faults.length) word = "";
  }

  const locked = $derived(!!build.document && isLocked(build.document, part.id));
  function lock() {
    const id = part.id;
    build.edit(`${locked ? "unlock" : "lock"} ${name}`, (draft) => toggleLock(draft, id));
  }

  function takeOut() {
    const id = part.id;
    build.edit(`take ${name} out`, (draft) => removePart(draft, id));
    build.sheet = null;
  }
</script>

<div class="mt-3 flex flex-wrap gap-2">
  {#if !makesHeat}<button class="button" onclick={() => void keep()}>Put on the shelf</button>{/if}
  <button class="button" onclick={copy} disabled={!build.editable}>Copy</button>
  <button class="button" aria-pressed={locked} onclick={lock} disabled={!build.editable}
    >{locked ? "Locked" : "Lock"}</button
  >
  <button class="button" onclick={takeOut} disabled={!build.editable}>Take out of the build</button>
</div>
{#if others.length}
  <label class="mt-2 flex items-baseline gap-2">
    <span class="soft">Replace by</span>
    <select
      class="field min-w-0"
      value=""
      disabled={!build.editable}
      onchange={(e) => {
        replace(e.currentTarget.value);
        e.currentTarget.value = "";
      }}
    >
      <option value="">another of the shelf …</option>
      {#each others as item (item.id)}<option value={item.id}>{item.name}{item.own ? ", yours" : ""}</option>{/each}
    </select>
  </label>
{/if}
{#if others.length}
  <button class="link mt-1 text-sm" aria-expanded={looking} onclick={() => (looking = !looking)}
    >{looking ? "less" : "what the nearest would do"}</button
  >
  {#if looking}<Substitutes {build} {part} />{/if}
{/if}
{#if kept}
  {#each kept.tried as note (`${note.on}${note.word}`)}
    <p class="text-sm">
      <span class="warn">Did not help</span>{note.build ? ` in ${note.build}` : ""}: {note.word}
    </p>
  {/each}
  <form class="mt-1 flex gap-2" onsubmit={noteTried}>
    <input
      class="field min-w-0 flex-1 text-sm"
      aria-label="Tried, did not help, because"
      placeholder="tried, did not help, because …"
      maxlength="300"
      bind:value={word}
    />
    <button class="button text-sm" disabled={!word.trim()}>Keep</button>
  </form>
{/if}
<p class="soft text-sm" role="status">
  {said || (locked ? "Next changes, Solve for and candidates leave it alone." : "")}
</p>
