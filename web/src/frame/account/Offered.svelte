<script lang="ts">
  import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";
  import Faults from "$lib/ui/Faults.svelte";

  /** Builds that others would pass on: taken or declined. */
  let { taken }: { taken?: () => void } = $props();
  let offered = $state.raw<Schemas["Listed"][]>([]);
  let faults = $state.raw<Fault[]>([]);

  async function load() {
    offered = (await client.GET("/api/offered")).data ?? [];
  }
  void load();

  async function answer(build: Schemas["Listed"], take: boolean) {
    const params = { params: { path: { build_id: build.id } } };
    const { error } = take
      ? await client.POST("/api/builds/{build_id}/take-over", params)
      : await client.POST("/api/builds/{build_id}/decline", params);
    faults = error ? faultsOf(error) : [];
    await load();
    if (take) taken?.();
  }
</script>

<Faults {faults} alert />
{#each offered as build (build.id)}
  <div class="banner" role="status">
    <span class="grow"><strong>{build.owner}</strong> would pass <strong>{build.name}</strong> on to you.</span>
    <button class="button main" onclick={() => answer(build, true)}>Take it over</button>
    <button class="button" onclick={() => answer(build, false)}>Decline</button>
  </div>
{/each}
