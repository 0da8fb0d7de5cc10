<script lang="ts">
  import { type Fault } from "$lib/api/client";
  import { session } from "$lib/state/session.svelte";
  import Mark from "$lib/ui/Mark.svelte";
  import Faults from "$lib/ui/Faults.svelte";

  let username = $state("");
  let password = $state("");
  let faults = $state.raw<Fault[]>([]);
  let busy = $state(false);

  async function submit(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    faults = await session.signIn(username, password);
    busy = false;
  }
</script>

<main class="mx-auto grid min-h-screen max-w-sm content-center gap-5 p-6">
  <div class="flex items-center gap-3">
    <Mark size={44} />
    <div>
      <h1>Krill</h1>
      <p class="soft">Will it hold? What limits it? Did it do what we predicted?</p>
    </div>
  </div>
  <form class="panel grid gap-3" onsubmit={submit}>
    <label class="grid gap-1">
      User name
      <input class="field" bind:value={username} autocomplete="username" required />
    </label>
    <label class="grid gap-1">
      Password
      <input class="field" type="password" bind:value={password} autocomplete="current-password" required />
    </label>
    <Faults {faults} alert />
    <button class="button main" disabled={busy}>Sign in</button>
    <p class="soft text-sm">Forgotten it? Ask whoever runs this Krill for a link that sets a new one.</p>
  </form>
</main>
