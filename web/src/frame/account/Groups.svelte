<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";

  /** Groups that builds and parts are shared with: made, filled, dropped. */
  type Props = {
    groups: Schemas["GroupOut"][];
    people: Schemas["PersonListed"][];
    changed: (error: unknown) => Promise<void>;
  };
  let { groups, people, changed }: Props = $props();
  let name = $state("");

  async function set(group: string, members: string[]) {
    const { error } = await client.PUT("/api/groups/{name}", { params: { path: { name: group } }, body: { members } });
    await changed(error);
  }

  async function make(event: SubmitEvent) {
    event.preventDefault();
    await set(name.trim(), []);
    name = "";
  }

  async function drop(group: string) {
    const { error } = await client.DELETE("/api/groups/{name}", { params: { path: { name: group } } });
    await changed(error);
  }

  const toggled = (group: Schemas["GroupOut"], member: string) =>
    group.members.includes(member) ? group.members.filter((one) => one !== member) : [...group.members, member];
</script>

<section class="panel" aria-labelledby="groups">
  <h2 id="groups">Groups</h2>
  <p class="soft">Owners share builds, and parts of their shelf, with groups that they are in.</p>
  {#each groups as group (group.name)}
    <div class="mt-3 flex flex-wrap items-baseline gap-3">
      <h3 class="w-40 font-semibold">{group.name}</h3>
      <span class="flex grow flex-wrap gap-x-4">
        {#each people as person (person.id)}
          <label class="flex items-center gap-1"
            ><input
              type="checkbox"
              checked={group.members.includes(person.name)}
              onchange={() => set(group.name, toggled(group, person.name))}
            />
            {person.name}</label
          >
        {/each}
      </span>
      <button class="button" onclick={() => drop(group.name)} aria-label="Drop the group {group.name}">Drop</button>
    </div>
  {/each}
  <form class="mt-3 flex flex-wrap items-center gap-3" onsubmit={make}>
    <input
      class="field"
      aria-label="Name of a new group"
      placeholder="name of a new group"
      bind:value={name}
      required
    />
    <button class="button">Make a group</button>
  </form>
</section>
