<script lang="ts">
  import { Table, TableBody, TableBodyCell, TableBodyRow, TableHead, TableHeadCell } from "flowbite-svelte";
  import { push } from "svelte-spa-router";
  import { client, faultsOf, sentence, type Fault, type Schemas } from "$lib/api/client";
  import { session } from "$lib/session.svelte";
  import Mark from "$lib/ui/Mark.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import ThemeToggle from "$lib/ui/ThemeToggle.svelte";
  import PasswordForm from "./PasswordForm.svelte";

  let builds = $state.raw<Schemas["BuildCard"][] | null>(null);
  let faults = $state.raw<Fault[]>([]);
  let name = $state("My water loop");
  let processor = $state(125);
  let graphics = $state(220);
  let rest = $state(30);
  let room = $state(25);
  let busy = $state(false);
  let changing = $state(false);

  async function load() {
    const { data, error } = await client.GET("/api/builds");
    builds = data ?? [];
    if (error) faults = faultsOf(error);
  }
  void load();

  async function create(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    const body = { name, processor_w: processor, graphics_w: graphics, rest_w: rest, room_c: room };
    const { data, error } = await client.POST("/api/builds/recipe", { body });
    busy = false;
    if (data) await push(`/build/${data.id}/route`);
    else faults = faultsOf(error);
  }

  async function importFile(event: Event) {
    const input = event.target as HTMLInputElement;
    const file = input.files?.[0];
    if (!file) return;
    let document: Record<string, unknown>;
    try {
      document = JSON.parse(await file.text()) as Record<string, unknown>;
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
            <TableHeadCell class="px-2 py-1">You are</TableHeadCell>
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
                  >{new Date(build.updated).toLocaleString()}</TableBodyCell
                >
              </TableBodyRow>
            {/each}
          </TableBody>
        </Table>
      {/if}
    </section>
    <section class="panel">
      <h2>New build: water loop in a small box</h2>
      <p class="soft mb-3">
        Three watt figures and a room give the first terraces. Every other figure is a marked guess until you replace
        it.
      </p>
      <form class="grid gap-3" onsubmit={create}>
        <label class="flex items-baseline gap-2">
          Name <input class="field w-72" bind:value={name} required maxlength="120" />
        </label>
        <div class="flex flex-wrap gap-x-6 gap-y-2">
          <NumberField
            label="Processor"
            unit="W"
            value={processor}
            low={10}
            high={400}
            onchange={(v) => (processor = v)}
          />
          <NumberField
            label="Graphics board"
            unit="W"
            value={graphics}
            low={10}
            high={600}
            onchange={(v) => (graphics = v)}
          />
          <NumberField label="Rest of the box" unit="W" value={rest} low={1} high={300} onchange={(v) => (rest = v)} />
          <NumberField label="Room" unit="°C" value={room} low={5} high={45} onchange={(v) => (room = v)} />
        </div>
        {#each faults as fault (fault.where + fault.what)}<p class="fault" role="alert">{sentence(fault)}</p>{/each}
        <div class="flex items-center gap-4">
          <button class="button main" disabled={busy}>Make the build</button>
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
