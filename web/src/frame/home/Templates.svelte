<script lang="ts">
  import { push } from "svelte-spa-router";
  import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";
  import Faults from "$lib/ui/Faults.svelte";

  /** Builds of this Krill to begin with: read, or copied into one's own. */
  let templates = $state.raw<Schemas["Listed"][]>([]);
  let faults = $state.raw<Fault[]>([]);
  void client.GET("/api/templates").then(({ data }) => (templates = data ?? []));

  async function begin(template: Schemas["Listed"]) {
    const { data, error } = await client.POST("/api/builds/{build_id}/copy", {
      params: { path: { build_id: template.id } },
      body: { name: template.name },
    });
    if (data) await push(`/build/${data.id}/route`);
    else faults = faultsOf(error);
  }
</script>

{#if templates.length}
  <section aria-labelledby="templates">
    <h2 id="templates" class="text-xl">Templates</h2>
    <Faults {faults} alert />
    <ul class="mt-1 grid gap-2">
      {#each templates as template (template.id)}
        <li class="flex flex-wrap items-baseline gap-3">
          <a class="font-semibold" href="#/build/{template.id}/route">{template.name}</a>
          <span class="soft">by {template.owner}</span>
          <button class="button" onclick={() => begin(template)} aria-label="Begin with {template.name}"
            >Begin with it</button
          >
        </li>
      {/each}
    </ul>
  </section>
{/if}
