<script lang="ts">
  import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";
  import { session } from "$lib/state/session.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import Mark from "$lib/ui/Mark.svelte";
  import ThemeToggle from "$lib/ui/ThemeToggle.svelte";
  import { day } from "$lib/units/format";
  import Groups from "./Groups.svelte";
  import LinkMade from "./LinkMade.svelte";

  /** Who may sign in, for administrators: invited, kept out, given a new password, put in groups. */
  type Person = Schemas["PersonListed"];
  let people = $state.raw<Person[] | null>(null);
  let invitations = $state.raw<Schemas["InvitationOut"][]>([]);
  let groups = $state.raw<Schemas["GroupOut"][]>([]);
  let faults = $state.raw<Fault[]>([]);
  let note = $state("");
  let into = $state<string[]>([]);
  let made = $state.raw<{ token: string; what: string } | null>(null);

  async function load() {
    const answers = await Promise.all([
      client.GET("/api/people"),
      client.GET("/api/invitations"),
      client.GET("/api/groups"),
    ]);
    people = answers[0].data ?? [];
    invitations = answers[1].data ?? [];
    groups = answers[2].data ?? [];
    faults = answers[0].error ? faultsOf(answers[0].error) : [];
  }
  void load();

  async function after(error: unknown) {
    await load();
    if (error) faults = faultsOf(error);
  }

  async function invite(event: SubmitEvent) {
    event.preventDefault();
    const { data, error } = await client.POST("/api/invitations", { body: { note, groups: into } });
    if (data) made = { token: data.token, what: note ? `The invitation for ${note}` : "The invitation" };
    note = "";
    into = [];
    await after(error);
  }

  async function reset(person: Person) {
    const { data, error } = await client.POST("/api/people/{person_id}/reset", {
      params: { path: { person_id: person.id } },
    });
    if (data) made = { token: data.token, what: `The link by which ${person.name} chooses another password` };
    await after(error);
  }

  async function change(person: Person, body: Schemas["PersonChange"]) {
    const { error } = await client.PATCH("/api/people/{person_id}", {
      params: { path: { person_id: person.id } },
      body,
    });
    await after(error);
  }

  async function takeBack(id: number) {
    const { error } = await client.DELETE("/api/invitations/{link_id}", { params: { path: { link_id: id } } });
    await after(error);
  }
</script>

<div class="mx-auto max-w-5xl p-6">
  <header class="mb-5 flex flex-wrap items-center gap-3">
    <Mark />
    <h1 class="flex-1">People and groups</h1>
    <a class="button" href="#/account">Your account</a>
    <a class="button" href="#/">All builds</a>
    <ThemeToggle />
  </header>
  <main class="grid gap-4">
    <Faults {faults} alert />
    {#if made}<LinkMade token={made.token} what={made.what} done={() => (made = null)} />{/if}
    <section class="panel" aria-labelledby="people">
      <h2 id="people">People</h2>
      {#if people === null}
        <p class="soft">Loading …</p>
      {:else}
        <table class="plain">
          <thead
            ><tr><th>Name</th><th>groups</th><th class="text-right">builds</th><th>last seen</th><th></th></tr></thead
          >
          <tbody>
            {#each people as person (person.id)}
              <tr class:out={!person.active}>
                <td class="font-semibold"
                  >{person.name}
                  {#if person.administrator}<span class="soft font-normal">administrator</span>{/if}
                  {#if !person.active}<span class="soft font-normal">kept out</span>{/if}</td
                >
                <td>{person.groups.join(", ") || "–"}</td>
                <td class="num text-right">{person.builds}</td>
                <td>{person.seen === "never" ? "never" : day(person.seen)}</td>
                <td class="text-right">
                  <button class="button" onclick={() => reset(person)} aria-label="New password for {person.name}"
                    >New password</button
                  >
                  <button
                    class="button"
                    onclick={() => change(person, { administrator: !person.administrator })}
                    aria-label="{person.administrator ? 'No administrator' : 'Make administrator'}: {person.name}"
                    >{person.administrator ? "No administrator" : "Make administrator"}</button
                  >
                  {#if person.name !== session.user?.username}
                    <button
                      class="button"
                      onclick={() => change(person, { active: !person.active })}
                      aria-label="{person.active ? 'Keep out' : 'Let in'} {person.name}"
                      >{person.active ? "Keep out" : "Let in"}</button
                    >
                  {/if}
                </td>
              </tr>
            {/each}
          </tbody>
        </table>
        <p class="soft mt-1 text-sm">
          Who is kept out is signed out at once; their builds stay. On the server: bin/users pass-on FROM TO.
        </p>
      {/if}
    </section>
    <section class="panel" aria-labelledby="invite">
      <h2 id="invite">Invite somebody</h2>
      <form class="flex flex-wrap items-end gap-3" onsubmit={invite}>
        <label class="grid gap-1"
          >For whom, in your words <input class="field w-72" bind:value={note} maxlength="120" /></label
        >
        {#each groups as group (group.name)}
          <label class="flex items-center gap-1"
            ><input type="checkbox" value={group.name} bind:group={into} /> {group.name}</label
          >
        {/each}
        <button class="button main">Make a link</button>
      </form>
      {#each invitations as one (one.id)}
        <p class="mt-2 flex flex-wrap items-baseline gap-3">
          <span
            >{one.person ? `New password for ${one.person}` : one.note || "Somebody"}
            <span class="soft">by {one.made_by || "the command line"}, good until {day(one.ends)}</span></span
          >
          <button class="button" onclick={() => takeBack(one.id)}>Take back</button>
        </p>
      {/each}
    </section>
    <Groups {groups} people={people ?? []} changed={after} />
  </main>
</div>

<style>
  .out td {
    color: var(--soft);
  }
</style>
