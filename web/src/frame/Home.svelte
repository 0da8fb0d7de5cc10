<script lang="ts">
  import { day, clock } from "$lib/units/format";
  import { Table, TableBody, TableBodyCell, TableBodyRow, TableHead, TableHeadCell } from "flowbite-svelte";
  import { push } from "svelte-spa-router";
  import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";
  import { emptyBuild } from "$lib/document/empty";
  import { session } from "$lib/state/session.svelte";
  import Mark from "$lib/ui/Mark.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import RecipeWatts from "$lib/ui/RecipeWatts.svelte";
  import ThemeToggle from "$lib/ui/ThemeToggle.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import PasswordForm from "./PasswordForm.svelte";

  let builds = $state.raw<Schemas["BuildCard"][] | null>(null);
  let faults = $state.raw<Fault[]>([]);
  type Recipe = Schemas["RecipeOut"];
  const EMPTY = "empty";
  let recipes = $state.raw<Recipe[]>([]);
  let recipeId = $state("water_loop");
  let name = $state("");
  let watts = $state<Record<string, number[]>>({});
  let room = $state(25);
  const recipe = $derived(recipes.find((r) => r.id === recipeId));
  const figures = $derived(watts[recipeId] ?? recipe?.asks.map((ask) => ask.start_w) ?? []);
  let busy = $state(false);
  let changing = $state(false);

  async function load() {
    const { data, error } = await client.GET("/api/builds");
    builds = data ?? [];
    if (error) faults = faultsOf(error);
  }
  void load();
  void client.GET("/api/recipes").then(({ data }) => (recipes = data ?? []));

  async function create(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    const [first = 0, second = 0, third = 0] = figures;
    const { data, error } =
      recipeId === EMPTY
        ? await client.POST("/api/builds", { body: { document: emptyBuild(name || "New build", room) } })
        : await client.POST("/api/builds/recipe", {
            body: {
              recipe: recipeId,
              name: name || null,
              processor_w: first,
              graphics_w: second,
              rest_w: third,
              room_c: room,
            },
          });
    busy = false;
    if (data) await push(`/build/${data.id}/route`);
    else faults = faultsOf(error);
  }

  function setWatts(index: number, value: number) {
    watts[recipeId] = figures.map((old, i) => (i === index ? value : old));
  }

  async function importFile(event: Event) {
    const input = event.target as HTMLInputElement;
    const file = input.files?.[0];
    if (!file) return;
    let document: Schemas["Build"];
    try {
      document = JSON.parse(await file.text()) as Schemas["Build"];
    } catch {
      faults = [{ where: file.name, what: "not JSON", allowed: "a build document" }];
      return;
    }
    const { data, error } = await client.POST("/api/builds", { body: { document } });
    input.value = "";
    if (data) await push(`/build/${data.id}/route`);
    else faults = faultsOf(error);
  }
</script>

<div class="mx-auto max-w-5xl p-6">
  <header class="mb-6 flex items-center gap-3">
    <Mark />
    <h1 class="flex-1">Krill</h1>
    <span class="soft">{session.user?.username}</span>
    <a class="button" href="#/shelf">Parts shelf</a>
    <button class="button" onclick={() => (changing = !changing)} aria-expanded={changing}>Password</button>
    <button class="button" onclick={() => session.signOut()}>Sign out</button>
    <ThemeToggle />
  </header>
  {#if changing}<PasswordForm done={() => (changing = false)} />{/if}
  <main class="grid gap-6">
    <section class="panel">
      <h2 class="mb-2">Builds</h2>
      {#if builds === null}
        <p class="soft">Loading …</p>
      {:else if builds.length === 0}
        <p class="soft">No build yet. Start one from the recipe below, or open a build file.</p>
      {:else}
        <Table border={false} class="text-base">
          <TableHead class="!bg-transparent text-[var(--soft)] dark:text-[var(--soft)]">
            <TableHeadCell class="px-2 py-1">Name</TableHeadCell>
            <TableHeadCell class="px-2 py-1">Owner</TableHeadCell>
            <TableHeadCell class="px-2 py-1">Your role</TableHeadCell>
            <TableHeadCell class="px-2 py-1">Revisions</TableHeadCell>
            <TableHeadCell class="px-2 py-1">Changed</TableHeadCell>
          </TableHead>
          <TableBody>
            {#each builds as build (build.id)}
              <TableBodyRow class="!border-[var(--line)] !bg-transparent">
                <TableBodyCell class="px-2 py-2 text-[var(--ink)] dark:text-[var(--ink)]">
                  <a class="font-semibold" href={`#/build/${build.id}/route`}>{build.name}</a>
                </TableBodyCell>
                <TableBodyCell class="px-2 py-2 text-[var(--ink)] dark:text-[var(--ink)]">{build.owner}</TableBodyCell>
                <TableBodyCell class="px-2 py-2 text-[var(--ink)] dark:text-[var(--ink)]">{build.role}</TableBodyCell>
                <TableBodyCell class="num px-2 py-2 text-[var(--ink)] dark:text-[var(--ink)]"
                  >{build.revisions}</TableBodyCell
                >
                <TableBodyCell class="px-2 py-2 text-[var(--ink)] dark:text-[var(--ink)]"
                  >{day(build.updated)}, {clock(build.updated)}</TableBodyCell
                >
              </TableBodyRow>
            {/each}
          </TableBody>
        </Table>
      {/if}
    </section>
    <section class="panel">
      <h2>New build</h2>
      <p class="soft mb-3">
        Three watt figures and a room give the first terraces. Every other figure is a marked guess until you replace
        it.
      </p>
      <form class="grid gap-3" onsubmit={create}>
        <div class="grid grid-cols-2 gap-2 md:grid-cols-3 lg:grid-cols-6" role="radiogroup" aria-label="Recipe">
          {#each [...recipes, { id: EMPTY, name: "Empty build", says: "a room and a box; you add the rest" }] as item (item.id)}
            <label class="choice" class:on={item.id === recipeId}>
              <input type="radio" class="sr-only" name="recipe" value={item.id} bind:group={recipeId} />
              <strong>{item.name}</strong>
              <span class="soft text-sm">{item.says}</span>
            </label>
          {/each}
        </div>
        <label class="flex items-baseline gap-2">
          Name <input class="field w-72" bind:value={name} placeholder={recipe?.name ?? "New build"} maxlength="120" />
        </label>
        <div class="flex flex-wrap gap-x-6 gap-y-2">
          <NumberField label="Room" unit="°C" value={room} low={5} high={45} onchange={(v) => (room = v)} />
          {#if recipe}
            <RecipeWatts asks={recipe.asks} {figures} onchange={setWatts} />
          {/if}
        </div>
        <Faults {faults} alert />
        <div class="flex items-center gap-4">
          <button class="button main" disabled={busy || (recipeId !== EMPTY && !recipe)}>Create build</button>
          <label class="soft">
            or open a build file
            <input type="file" accept=".json,application/json" class="ml-1 text-sm" onchange={importFile} />
          </label>
        </div>
      </form>
    </section>
    <p class="soft text-sm">Krill gives estimates; it certifies nothing.</p>
  </main>
</div>

<style>
  .choice {
    display: grid;
    align-content: start;
    gap: 2px;
    border: 2px solid var(--line);
    border-radius: 8px;
    padding: 8px 11px;
    cursor: pointer;
  }
  .choice.on {
    border-color: var(--accent);
    background: var(--sunk);
  }
  .choice:focus-within {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
</style>
