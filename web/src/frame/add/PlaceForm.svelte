<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { classes } from "$lib/state/classes.svelte";
  import { addChamber, addOutside, addPath } from "$lib/document/air";
  import type { Face } from "$lib/document/build";
  import { FACES } from "$lib/document/housing";
  import { addLoop } from "$lib/document/loops";
  import { parseNumber } from "$lib/units/format";

  /** A chamber or outside zone, a path between two zones, or a loop. */
  let { build, what, added }: { build: BuildState; what: "path" | "chamber" | "loop"; added: (text: string) => void } =
    $props();
  void classes.load();
  let name = $state("");
  let from = $state("");
  let to = $state("");
  let face = $state<Face | "">("");
  let outside = $state(false);
  let airC = $state("");
  let pump = $state("pump_strong");
  let box: HTMLInputElement | undefined = $state();
  const zones = $derived(build.document ? build.document.zones : []);
  const first = $derived(zones.some((z) => z.id === from) ? from : (zones[0]?.id ?? ""));
  const second = $derived(zones.some((z) => z.id === to) ? to : (zones.find((z) => z.id !== first)?.id ?? ""));
  const kindOf = (id: string) => zones.find((z) => z.id === id)?.kind;
  const wrong = $derived(
    what === "path" && first === second && kindOf(first) !== "outside" ? "two zones, or an outside one for both" : "",
  );

  function add(event: SubmitEvent) {
    event.preventDefault();
    if (wrong) return;
    const label = name;
    build.edit(`add ${label}`, (draft) => {
      if (what === "loop") addLoop(draft, label, pump);
      else if (what === "path") addPath(draft, label, first, second, face);
      else if (outside) addOutside(draft, label, parseNumber(airC));
      else addChamber(draft, label);
    });
    added(`Added ${label}.`);
    name = "";
    box?.focus();
  }

  const focus = (node: HTMLInputElement) => node.focus();
</script>

<form onsubmit={add} class="grid gap-2">
  <label
    >Name <input class="field w-52" bind:value={name} bind:this={box} maxlength="80" required {@attach focus} /></label
  >
  {#if what === "chamber"}
    <label class="flex items-center gap-1.5"
      ><input type="checkbox" bind:checked={outside} /> outside the housing (a station, under a table)</label
    >
    {#if outside}
      <label
        >Air there <input class="field num w-20" bind:value={airC} placeholder="as the room" inputmode="decimal" /> °C</label
      >
    {/if}
  {:else if what === "path"}
    <label
      >From
      <select class="field" value={first} onchange={(e) => (from = e.currentTarget.value)}>
        {#each zones as zone (zone.id)}<option value={zone.id}>{zone.name || zone.id}</option>{/each}
      </select></label
    >
    <label
      >to
      <select class="field" value={second} onchange={(e) => (to = e.currentTarget.value)}>
        {#each zones as zone (zone.id)}<option value={zone.id}>{zone.name || zone.id}</option>{/each}
      </select></label
    >
    <label
      >Its opening is on the
      <select class="field" bind:value={face}>
        <option value="">inside</option>
        {#each FACES as item (item)}<option value={item}>{item}</option>{/each}
      </select></label
    >
  {:else}
    <label
      >Pump
      <select class="field max-w-60" bind:value={pump}>
        {#each classes.of("pump") as item (item.id)}<option value={item.id}>{item.name}</option>{/each}
      </select></label
    >
    <p class="soft text-sm">A loop starts with its pump, a tube and a reservoir; add plates and radiators to it.</p>
  {/if}
  <div class="flex items-center gap-3">
    <button class="button main" disabled={!build.editable || !!wrong}>Add</button>
    {#if wrong}<span class="fault">{wrong}</span>{/if}
  </div>
</form>
