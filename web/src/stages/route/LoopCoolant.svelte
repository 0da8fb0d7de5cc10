<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { shelf } from "$lib/state/shelf.svelte";

  /** What a loop is filled with, from the shelf. */
  let {
    build,
    loop,
    change,
  }: {
    build: BuildState;
    loop: string;
    change: (what: string, make: (target: Record<string, unknown>) => void) => void;
  } = $props();
  void shelf.load();
  const coolants = $derived(shelf.items.filter((item) => item.kind === "coolant"));
  const mixture = $derived(JSON.stringify(build.document?.loops.find((own) => own.id === loop)?.coolant ?? {}));

  function fill(id: string) {
    const item = coolants.find((own) => own.id === id);
    if (item) change("coolant", (target) => (target["coolant"] = item.part["mixture"]));
  }
</script>

<label class="mt-2 grid gap-1">
  <span class="soft">Coolant</span>
  <select class="field" disabled={!build.editable} onchange={(e) => fill(e.currentTarget.value)}>
    {#each coolants as item (item.id)}
      <option value={item.id} selected={JSON.stringify(item.part["mixture"]) === mixture}>{item.name}</option>
    {/each}
  </select>
</label>
