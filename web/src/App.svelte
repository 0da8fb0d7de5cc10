<script lang="ts">
  import ThemeProvider from "flowbite-svelte/ThemeProvider.svelte";
  import Router from "svelte-spa-router";
  import Home from "./frame/Home.svelte";
  import Report from "./frame/Report.svelte";
  import Shelf from "./frame/Shelf.svelte";
  import SignIn from "./frame/SignIn.svelte";
  import Workbench from "./frame/Workbench.svelte";
  import { session } from "$lib/state/session.svelte";
  import { THEME } from "$lib/ui/theme";

  const routes = {
    "/": Home,
    "/shelf": Shelf,
    "/build/:id/report": Report,
    "/build/:id/:stage?/:view?": Workbench,
    "*": Home,
  };
  void session.load();
</script>

{#if !session.ready}
  <p class="soft p-8">Loading …</p>
{:else if !session.user}
  <SignIn />
{:else}
  <ThemeProvider theme={THEME}><Router {routes} /></ThemeProvider>
{/if}
