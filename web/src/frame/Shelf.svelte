<script lang="ts">
  import { client } from "$lib/api/client";
  import { session } from "$lib/state/session.svelte";
  import { classes } from "$lib/state/classes.svelte";
  import { shelf, type ShelfItem } from "$lib/state/shelf.svelte";
  import Mark from "$lib/ui/Mark.svelte";
  import ThemeToggle from "$lib/ui/ThemeToggle.svelte";
  import { toldOf } from "$lib/document/told";
  import { keepFile } from "$lib/ui/keep";
  import Faults from "$lib/ui/Faults.svelte";

  /** The parts shelf: one's own parts and the class-typical ones, searched, exported, imported. */
  void shelf.load();
  void classes.load();
  let text = $state("");
  let kind = $state("");
  let said = $state("");
  const kinds = $derived([...new Set(shelf.items.map((item) => item.kind))].sort());
  const found = $derived(shelf.found(text, kind ? [kind] : undefined));
  const own = $derived(found.filter((item) => item.own));
  const shown = $derived(found.filter((item) => item.by));
  const shipped = $derived(found.filter((item) => !item.own && !item.by));
  const groups = $derived(session.user?.groups ?? []);

  const stated = (item: ShelfItem) => toldOf(item, classes.byId(item.part["class"] as string | undefined));

  const toggled = (all: string[], one: string) =>
    all.includes(one) ? all.filter((group) => group !== one) : [...all, one];

  async function save() {
    const { data } = await client.GET("/api/shelf/file");
    if (!data) return;
    keepFile(new Blob([JSON.stringify(data, null, 2)], { type: "application/json" }), "krill-shelf.json");
  }

  async function read(event: Event) {
    const input = event.target as HTMLInputElement;
    const file = input.files?.[0];
    if (file) said = await shelf.read(await file.text());
    input.value = "";
  }
</script>

<div class="mx-auto max-w-5xl p-6">
  <header class="mb-5 flex items-center gap-3">
    <Mark />
    <h1 class="flex-1">Parts shelf</h1>
    <a class="button" href="#/">All builds</a>
    <ThemeToggle />
  </header>
  <main class="grid gap-4">
    <div class="flex flex-wrap items-center gap-3">
      <input
        class="field w-72"
        placeholder="120 fan, radiator 45, coupling …"
        aria-label="Search the shelf"
        bind:value={text}
      />
      <select class="field" bind:value={kind} aria-label="Kind">
        <option value="">every kind</option>
        {#each kinds as item (item)}<option value={item}>{item.replace("_", " ")}</option>{/each}
      </select>
      <span class="grow"></span>
      <button class="button" onclick={save}>Export mine as JSON</button>
      <label class="soft"
        >import <input type="file" accept=".json,application/json" class="text-sm" onchange={read} /></label
      >
    </div>
    {#if said}<p role="status">{said}</p>{/if}
    <Faults faults={shelf.faults} alert />
    <section class="panel">
      <h2>Yours</h2>
      {#if !own.length}
        <p class="soft">
          {text || kind
            ? "No part of yours has that name."
            : "Nothing yet: open a part in a build and choose “Put on the shelf”."}
        </p>
      {:else}
        <table class="plain">
          <thead><tr><th>Part</th><th>kind</th><th>version</th><th>states</th><th></th></tr></thead>
          <tbody>
            {#each own as item (item.id)}
              <tr>
                <td class="font-semibold">{item.name}</td>
                <td>{item.kind.replace("_", " ")}</td>
                <td class="num">{item.version}</td>
                <td class="soft text-sm"
                  >{stated(item)}{#each item.tried as note (`${note.on}${note.word}`)}<br /><span class="warn"
                      >Did not help</span
                    >{note.build ? ` in ${note.build}` : ""}: {note.word}{/each}</td
                >
                <td class="text-right"
                  >{#each groups as group (group)}<label class="mr-3 whitespace-nowrap"
                      ><input
                        type="checkbox"
                        checked={item.groups.includes(group)}
                        aria-label="Show {item.name} to {group}"
                        onchange={() => shelf.showTo(item.id, toggled(item.groups, group))}
                      />
                      {group}</label
                    >{/each}<button
                    class="button"
                    onclick={() => shelf.remove(item.id)}
                    aria-label="Take {item.name} off the shelf">Take off</button
                  ></td
                >
              </tr>
            {/each}
          </tbody>
        </table>
        <p class="soft mt-1 text-sm">Copies in builds keep the figures that they were copied with.</p>
      {/if}
    </section>
    {#if shown.length}
      <section class="panel">
        <h2>Of your groups <span class="soft">their owners keep the figures; copies stay as they were taken</span></h2>
        <table class="plain">
          <thead><tr><th>Part</th><th>kind</th><th>by</th><th>states</th></tr></thead>
          <tbody>
            {#each shown as item (item.id)}
              <tr>
                <td class="font-semibold">{item.name}</td>
                <td>{item.kind.replace("_", " ")}</td>
                <td>{item.by}</td>
                <td class="soft text-sm">{stated(item)}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      </section>
    {/if}
    <section class="panel">
      <h2>Class-typical <span class="soft">estimates that ship with Krill</span></h2>
      <table class="plain">
        <thead><tr><th>Part</th><th>kind</th><th>states</th></tr></thead>
        <tbody>
          {#each shipped as item (item.id)}
            <tr>
              <td class="font-semibold">{item.name}</td>
              <td>{item.kind.replace("_", " ")}</td>
              <td class="soft text-sm">{stated(item)}</td>
            </tr>
          {:else}
            <tr><td colspan="3" class="soft">no part has that name</td></tr>
          {/each}
        </tbody>
      </table>
    </section>
  </main>
</div>
