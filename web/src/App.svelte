<script lang="ts">
  import ThemeProvider from "flowbite-svelte/ThemeProvider.svelte";
  import Router from "svelte-spa-router";
  import Home from "./frame/Home.svelte";
  import Report from "./frame/Report.svelte";
  import SheetPrint from "./frame/SheetPrint.svelte";
  import Shelf from "./frame/Shelf.svelte";
  import Account from "./frame/account/Account.svelte";
  import People from "./frame/account/People.svelte";
  import SignIn from "./frame/SignIn.svelte";
  import TakeLink from "./frame/TakeLink.svelte";
  import Workbench from "./frame/Workbench.svelte";
  import { session } from "$lib/state/session.svelte";
  import { THEME } from "$lib/ui/theme";

  const routes = {
    "/": Home,
    "/shelf": Shelf,
    "/account": Account,
    "/people": People,
    "/build/:id/report": Report,
    "/build/:id/sheet-print": SheetPrint,
    "/build/:id/:stage?/:view?": Workbench,
    "*": Home,
  };
  void session.load();

  // a link that lets in once goes before everything, whoever is signed in
  const LINK = /^#\/link\/([\w-]{1,80})$/;
  let token = $state(LINK.exec(location.hash)?.[1]);
  const onhashchange = () => (token = LINK.exec(location.hash)?.[1]);
</script>

<svelte:window {onhashchange} />

{#if !session.ready}
  <p class="soft p-8">Loading …</p>
{:else if token}
  {#key token}<TakeLink {token} />{/key}
{:else if !session.user}
  <SignIn />
{:else}
  <ThemeProvider theme={THEME}><Router {routes} /></ThemeProvider>
{/if}
