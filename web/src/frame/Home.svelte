<script lang="ts">
  import { tick } from "svelte";
  import { BuildsState } from "$lib/state/builds.svelte";
  import { session } from "$lib/state/session.svelte";
  import Mark from "$lib/ui/Mark.svelte";
  import ThemeToggle from "$lib/ui/ThemeToggle.svelte";
  import BuildList from "./home/BuildList.svelte";
  import NewBuild from "./home/NewBuild.svelte";
  import Templates from "./home/Templates.svelte";
  import Offered from "./account/Offered.svelte";

  const builds = new BuildsState();
  void builds.load();
  let leaving = $state(false);
  let search: HTMLInputElement | undefined = $state();

  $effect(() => () => builds.leave());

  /** What is still being asked is let go first: signed out it would only be refused. */
  async function signOut() {
    leaving = true;
    builds.leave();
    await tick();
    await session.signOut();
  }

  function onkeydown(event: KeyboardEvent) {
    const typing = (event.target as HTMLElement).closest("input, select, textarea");
    if (event.key !== "/" || typing) return;
    event.preventDefault();
    search?.focus();
  }
</script>

<svelte:window {onkeydown} />

<header class="top">
  <Mark />
  <h1>Krill</h1>
  <input
    class="field search"
    type="search"
    placeholder="Find a build, a part, a run, a note  /"
    aria-label="Find a build, a part, a run, a note"
    bind:this={search}
    oninput={(event) => builds.find(event.currentTarget.value)}
  />
  <span class="grow"></span>
  {#if session.user?.administrator}<a class="button" href="#/people">People</a>{/if}
  <a class="button" href="#/shelf">Parts shelf</a>
  <a class="button" href="#/account" title="Your account">{session.user?.username}</a>
  <button class="button" onclick={signOut}>Sign out</button>
  <ThemeToggle />
</header>
<main class="grid gap-6">
  {#if !leaving}
    <Offered taken={() => builds.load()} />
    <BuildList {builds} />
    <Templates />
    <NewBuild />
  {/if}
  <p class="soft text-sm">Krill gives estimates; it certifies nothing.</p>
</main>

<style>
  .top {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px 12px;
    background: var(--panel);
    border-bottom: 1px solid var(--line);
    padding: 9px 24px;
  }
  .search {
    flex: 0 1 380px;
    min-width: 200px;
    margin-left: 24px;
    background: var(--ground);
  }
  main {
    max-width: 1400px;
    margin: 0 auto;
    padding: 16px 24px;
  }
  @media (max-width: 700px) {
    .top,
    main {
      padding-inline: 12px;
    }
    .search {
      order: 1;
      flex-basis: 100%;
      margin: 0;
    }
  }
</style>
