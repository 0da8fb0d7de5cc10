<script lang="ts">
  import { client, faultsOf, type Fault } from "$lib/api/client";
  import Faults from "$lib/ui/Faults.svelte";

  let { done }: { done: () => void } = $props();
  let old = $state("");
  let fresh = $state("");
  let faults = $state.raw<Fault[]>([]);

  async function change(event: SubmitEvent) {
    event.preventDefault();
    const { error, response } = await client.POST("/api/password", { body: { old, new: fresh } });
    faults = response.ok ? [] : faultsOf(error);
    if (!response.ok) return;
    old = fresh = "";
    done();
  }
</script>

<form class="mt-1 flex flex-wrap items-end gap-3" onsubmit={change}>
  <label class="grid gap-1">
    Present password <input class="field" type="password" bind:value={old} autocomplete="current-password" required />
  </label>
  <label class="grid gap-1">
    New password <input class="field" type="password" bind:value={fresh} autocomplete="new-password" required />
  </label>
  <button class="button main">Change it</button>
  <Faults {faults} alert />
</form>
