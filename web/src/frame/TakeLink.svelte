<script lang="ts">
  import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";
  import { session } from "$lib/state/session.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import Mark from "$lib/ui/Mark.svelte";

  /** A link that lets in once: an invitation, or another password. */
  let { token }: { token: string } = $props();
  let link = $state.raw<Schemas["LinkOut"] | null>(null);
  let username = $state("");
  let password = $state("");
  let faults = $state.raw<Fault[]>([]);

  async function look() {
    const { data, error } = await client.POST("/api/link", { body: { token } });
    link = data ?? null;
    faults = error ? faultsOf(error) : [];
  }
  $effect(() => void look());

  async function take(event: SubmitEvent) {
    event.preventDefault();
    const { data, error } = await client.POST("/api/link/take", { body: { token, username, password } });
    faults = error ? faultsOf(error) : [];
    if (!data) return;
    session.user = data;
    location.hash = "#/";
  }
</script>

<main class="mx-auto grid min-h-screen max-w-sm content-center gap-5 p-6">
  <div class="flex items-center gap-3">
    <Mark size={44} />
    <div>
      <h1>Krill</h1>
      <p class="soft">
        {link?.username ? `Another password for ${link.username}` : "You are invited: choose a name and a password."}
      </p>
    </div>
  </div>
  {#if link}
    <form class="panel grid gap-3" onsubmit={take}>
      {#if !link.username}
        <label class="grid gap-1">
          User name <input class="field" bind:value={username} autocomplete="username" required maxlength="150" />
        </label>
      {/if}
      <label class="grid gap-1">
        Password <input class="field" type="password" bind:value={password} autocomplete="new-password" required />
      </label>
      <p class="soft text-sm">At least ten characters. A few words in a row are good.</p>
      <Faults {faults} alert />
      <button class="button main">Come in</button>
    </form>
  {:else}
    <Faults {faults} alert />
    {#if faults.length}<a class="button" href="#/">Sign in</a>{/if}
  {/if}
</main>
