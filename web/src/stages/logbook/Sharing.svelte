<script lang="ts">
  import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { session } from "$lib/state/session.svelte";
  import Faults from "$lib/ui/Faults.svelte";

  /** Who may see and change a build, whether it is a template, and to whom it would pass on. */
  let { build }: { build: BuildState } = $props();
  let access = $state.raw<Schemas["AccessOut"] | null>(null);
  let faults = $state.raw<Fault[]>([]);
  let who = $state("");
  let role = $state<"editor" | "reader">("reader");
  let heir = $state("");
  const path = $derived({ params: { path: { build_id: build.id } } });
  const own = $derived(build.role === "owner");
  const groups = $derived(session.user?.groups ?? []);
  const GROUP = "group:";

  async function load() {
    access = (await client.GET("/api/builds/{build_id}/access", path)).data ?? null;
  }
  $effect(() => {
    if (build.id) void load();
  });

  async function after(answer: { error?: unknown; response: Response }) {
    faults = answer.response.ok ? [] : faultsOf(answer.error);
    await load();
  }

  const give = async (name: string, wanted: "editor" | "reader" | null) =>
    after(await client.PUT("/api/builds/{build_id}/access", { ...path, body: { username: name, role: wanted } }));
  const giveGroup = async (group: string, wanted: "editor" | "reader" | null) =>
    after(await client.PUT("/api/builds/{build_id}/group-access", { ...path, body: { group, role: wanted } }));

  async function share(event: SubmitEvent) {
    event.preventDefault();
    await (who.startsWith(GROUP) ? giveGroup(who.slice(GROUP.length), role) : give(who.trim(), role));
    if (!faults.length) who = "";
  }

  async function offer(name: string) {
    await after(await client.PUT("/api/builds/{build_id}/offer", { ...path, body: { username: name } }));
    heir = "";
  }

  async function setTemplate(template: boolean) {
    await after(await client.PUT("/api/builds/{build_id}/template", { ...path, body: { template } }));
    if (!faults.length) build.template = template;
  }
</script>

<section class="panel mt-3" aria-labelledby="sharing">
  <h2 id="sharing">Who may see it</h2>
  <Faults {faults} alert />
  {#if access}
    <ul>
      <li><strong>{access.owner}</strong> <span class="soft">owner</span></li>
      {#each access.people as person (person.name)}
        <li>
          <strong>{person.name}</strong> <span class="soft">{person.role}</span>
          {#if own}<button class="link" onclick={() => give(person.name, null)}>take it from {person.name}</button>{/if}
        </li>
      {/each}
      {#each access.groups as group (group.name)}
        <li>
          <strong>{group.name}</strong> <span class="soft">group, {group.role}s</span>
          {#if own}<button class="link" onclick={() => giveGroup(group.name, null)}>take it from {group.name}</button
            >{/if}
        </li>
      {/each}
    </ul>
  {/if}
  {#if own}
    <form class="mt-2 flex flex-wrap items-center gap-2" onsubmit={share}>
      <input
        class="field"
        aria-label="User name or group"
        placeholder="user name"
        bind:value={who}
        required
        list="groups-of-mine"
      />
      {#if groups.length}
        <datalist id="groups-of-mine"
          >{#each groups as group (group)}<option value="{GROUP}{group}">the group {group}</option>{/each}</datalist
        >
      {/if}
      <select class="field" aria-label="Role" bind:value={role}
        ><option value="reader">reader</option><option value="editor">editor</option></select
      >
      <button class="button">Share</button>
    </form>
    <p class="soft mt-1 text-sm">
      Names stand here as they were typed: Krill does not tell whether there is somebody of that name.
    </p>
    <div class="mt-3 flex flex-wrap items-center gap-3">
      {#if build.template}
        <span>A template: everybody here may read and copy it, nobody changes it.</span>
        <button class="button" onclick={() => setTemplate(false)}>Take it off the templates</button>
      {:else}
        <button class="button" onclick={() => setTemplate(true)}>Make it a template</button>
        <span class="soft">everybody here may then read and copy it, and nobody changes it</span>
      {/if}
    </div>
    <div class="mt-3 flex flex-wrap items-center gap-3">
      {#if access?.offered_to}
        <span>Offered to <strong>{access.offered_to}</strong>, who owns it once they take it.</span>
        <button class="button" onclick={() => offer("")}>Take the offer back</button>
      {:else}
        <form
          class="flex flex-wrap items-center gap-2"
          onsubmit={(event) => {
            event.preventDefault();
            void offer(heir.trim());
          }}
        >
          <input class="field" aria-label="Who may take it over" placeholder="user name" bind:value={heir} required />
          <button class="button">Pass it on</button>
          <span class="soft">they own it once they take it; you go on as an editor</span>
        </form>
      {/if}
    </div>
  {/if}
</section>

<style>
  ul {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 24px;
  }
</style>
