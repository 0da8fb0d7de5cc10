<script lang="ts">
  import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";
  import { session } from "$lib/state/session.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import Mark from "$lib/ui/Mark.svelte";
  import ThemeToggle from "$lib/ui/ThemeToggle.svelte";
  import { clock, day } from "$lib/units/format";
  import PasswordForm from "../PasswordForm.svelte";
  import Offered from "./Offered.svelte";
  import { deviceOf } from "./device";

  /** What is one's own: the password, where one is signed in, how much of one's share is used. */
  let sessions = $state.raw<Schemas["SessionOut"][]>([]);
  let usage = $state.raw<Schemas["Usage"] | null>(null);
  let faults = $state.raw<Fault[]>([]);
  let said = $state("");

  async function load() {
    const answers = await Promise.all([client.GET("/api/sessions"), client.GET("/api/usage")]);
    sessions = answers[0].data ?? [];
    usage = answers[1].data ?? null;
    faults = answers.flatMap(({ error }) => (error ? faultsOf(error) : []));
  }
  void load();

  async function end(id: string) {
    const { error } = await client.DELETE("/api/sessions/{session_id}", { params: { path: { session_id: id } } });
    await load();
    if (error) faults = faultsOf(error);
  }

  async function endOthers() {
    await client.POST("/api/end-other-sessions");
    await load();
  }

  async function changed() {
    said = "Your password is changed; everywhere else you are signed out.";
    await load();
  }

  const rows = $derived(
    usage
      ? [
          { what: "builds", used: usage.builds, most: usage.most_builds },
          { what: "runs", used: usage.runs, most: usage.most_runs },
          { what: "MB of logs and pictures", used: usage.mb, most: usage.most_mb },
        ]
      : [],
  );
</script>

<div class="mx-auto max-w-4xl p-6">
  <header class="mb-5 flex flex-wrap items-center gap-3">
    <Mark />
    <h1 class="flex-1">{session.user?.username}</h1>
    {#if session.user?.administrator}<a class="button" href="#/people">People and groups</a>{/if}
    <a class="button" href="#/">All builds</a>
    <ThemeToggle />
  </header>
  <main class="grid gap-4">
    <Faults {faults} alert />
    <Offered />
    <section class="panel">
      <h2>Password</h2>
      {#if said}<p role="status">{said}</p>{/if}
      <PasswordForm done={changed} />
      <p class="soft text-sm">At least ten characters. A few words in a row are good.</p>
    </section>
    <section class="panel" aria-labelledby="signed-in">
      <div class="flex flex-wrap items-baseline gap-3">
        <h2 id="signed-in" class="flex-1">Signed in</h2>
        {#if sessions.length > 1}<button class="button" onclick={endOthers}>Sign out everywhere else</button>{/if}
      </div>
      <table class="plain">
        <thead><tr><th>With</th><th>from</th><th>since</th><th>seen</th><th></th></tr></thead>
        <tbody>
          {#each sessions as one (one.id)}
            <tr>
              <td class="font-semibold">{deviceOf(one.browser)}</td>
              <td class="num">{one.address || "not known"}</td>
              <td>{day(one.began)}, {clock(one.began)}</td>
              <td>{one.current ? "now, here" : `${day(one.seen)}, ${clock(one.seen)}`}</td>
              <td class="text-right"
                >{#if !one.current}<button class="button" onclick={() => end(one.id)}>Sign out</button>{/if}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    </section>
    <section class="panel">
      <h2>Your share of the disk</h2>
      <table class="plain">
        <tbody>
          {#each rows as { what, used, most } (what)}
            <tr>
              <td>{what}</td>
              <td class="num text-right">{used} of {most}</td>
              <td class="w-1/2"><meter min="0" max={most} value={used} aria-label={what}></meter></td>
            </tr>
          {/each}
        </tbody>
      </table>
      <p class="soft text-sm">Deleted builds count until they are gone for good, thirty days later.</p>
    </section>
    {#if session.user?.groups.length}
      <p class="soft">You are in {session.user.groups.join(", ")}.</p>
    {/if}
  </main>
</div>

<style>
  meter {
    width: 100%;
  }
</style>
