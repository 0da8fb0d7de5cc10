<script lang="ts">
  import { push } from "svelte-spa-router";
  import { MediaQuery } from "svelte/reactivity";
  import { sentence } from "$lib/api/client";
  import { guideOf, storeGuide } from "$lib/guide";
  import { BuildState } from "$lib/state/build.svelte";
  import Air from "../stages/air/Air.svelte";
  import Bench from "../stages/bench/Bench.svelte";
  import Brief from "../stages/brief/Brief.svelte";
  import Fit from "../stages/fit/Fit.svelte";
  import Forecast from "../stages/forecast/Forecast.svelte";
  import Heat from "../stages/heat/Heat.svelte";
  import Logbook from "../stages/logbook/Logbook.svelte";
  import PartSheet from "../stages/route/PartSheet.svelte";
  import Route from "../stages/route/Route.svelte";
  import Sheet from "../stages/sheet/Sheet.svelte";
  import Verdict from "../stages/verdict/Verdict.svelte";
  import AddSheet from "./add/AddSheet.svelte";
  import Drawer from "./Drawer.svelte";
  import Elsewhere from "./Elsewhere.svelte";
  import FaultBanner from "./FaultBanner.svelte";
  import Finder from "./Finder.svelte";
  import Guide from "./Guide.svelte";
  import Hint from "./Hint.svelte";
  import Keys from "./Keys.svelte";
  import StageList from "./StageList.svelte";
  import Strip from "./Strip.svelte";
  import { STAGES } from "./stages";

  let { params }: { params: { id: string; stage?: string; view?: string } } = $props();
  const build = new BuildState();
  const stage = $derived(STAGES.some((s) => s.id === params.stage) ? params.stage! : "route");
  let keys = $state(false);
  let finder = $state(false);
  const view = $derived(params.view ?? "");
  // the unfolded housing, runs and pages of options need the width: there the drawer is folded until somebody opens it
  const narrow = new MediaQuery("max-width: 1099px");
  const wide = $derived(
    narrow.current ||
      ["air", "fit", "bench", "verdict", "sheet", "logbook"].includes(stage) ||
      (stage === "forecast" && ["size", "beside", "measure"].includes(view)),
  );
  const drawerKey = $derived(narrow.current ? "drawer-over" : wide ? "drawer-wide" : "drawer");
  let drawers = $state<Record<string, boolean>>({
    drawer: localStorage.getItem("drawer") !== "0",
    "drawer-wide": localStorage.getItem("drawer-wide") === "1",
    "drawer-over": false,
  });
  const drawer = $derived(drawers[drawerKey] ?? true);

  // by value: a change of stage must not read the build again over an edit that is on its way
  const id = $derived(params.id);
  $effect(() => {
    void build.open(id);
  });
  /** steps of the guide that were ticked; null where this build is not guided */
  let ticked = $derived(guideOf(id));

  function guide() {
    keys = false;
    storeGuide(id, (ticked ??= []));
  }

  /** To another stage; a sheet stays with the stage it was opened on. */
  function go(to: string) {
    build.sheet = build.adding = null;
    void push(`/build/${params.id}/${to}`);
  }

  function toggleDrawer() {
    drawers[drawerKey] = !drawer;
    localStorage.setItem(drawerKey, drawers[drawerKey] ? "1" : "0");
  }

  function onkeydown(event: KeyboardEvent) {
    const target = event.target as HTMLElement;
    const typing = /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || target.isContentEditable;
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z") {
      event.preventDefault();
      target.blur();
      void build.step(event.shiftKey ? "redo" : "undo");
    } else if (event.key === "Escape") {
      if (!finder && !keys && !build.sheet && !build.adding) build.trial.leave();
      finder = keys = false;
      build.sheet = build.adding = null;
    } else if (
      !typing &&
      !event.ctrlKey &&
      !event.metaKey &&
      !event.altKey &&
      localStorage.getItem("single-keys") !== "0"
    ) {
      single(event);
    }
  }

  function single(event: KeyboardEvent) {
    const found = STAGES.find((s) => s.key === event.key);
    if (found) go(found.id);
    else if (event.key === "[") build.shift(-1);
    else if (event.key === "]") build.shift(1);
    else if (event.key === "?") keys = !keys;
    else if (event.key === "/") finder = true;
    else if (event.key === "s") go("forecast/size");
    else if (event.key === "d") toggleDrawer();
    else if (event.key === "a") build.adding = { what: "part" };
    else return;
    event.preventDefault();
  }

  const leaving = (event: BeforeUnloadEvent) => {
    if (build.saved !== "saved") {
      void build.flush();
      event.preventDefault();
    }
  };
</script>

<svelte:window {onkeydown} onbeforeunload={leaving} />

{#if build.loadFaults.length}
  <main class="p-8">
    {#each build.loadFaults as fault, i (i)}<p class="fault">{sentence(fault)}</p>{/each}
    <a href="#/">All builds</a>
  </main>
{:else if !build.document}
  <p class="soft p-8">Loading the build …</p>
{:else}
  <div class="frame">
    <Strip {build} />
    <div class="body">
      <StageList {build} {stage} showKeys={() => (keys = true)} />
      <main>
        <Elsewhere {build} />
        {#each build.refused as fault, i (i)}
          <FaultBanner
            {build}
            {fault}
            means={build.saved === "no answer"
              ? "your change is kept here and will be saved"
              : "not saved; the last good state is kept"}
          />
        {/each}
        {#each build.unsolved as fault, i (i)}
          <FaultBanner
            {build}
            {fault}
            means={build.result ? "cannot be solved; figures in view are of the state before" : "cannot be solved"}
          />
        {/each}
        {#if ticked}<Guide {build} {stage} {go} bind:ticked />
        {:else}<Hint {stage} more={() => (keys = true)} />{/if}
        {#if stage === "brief"}<Brief {build} />
        {:else if stage === "heat"}<Heat {build} />
        {:else if stage === "route"}<Route {build} />
        {:else if stage === "air"}<Air {build} />
        {:else if stage === "fit"}<Fit {build} />
        {:else if stage === "forecast"}<Forecast {build} {view} />
        {:else if stage === "bench"}<Bench {build} />
        {:else if stage === "verdict"}<Verdict {build} {view} />
        {:else if stage === "sheet"}<Sheet {build} />
        {:else}<Logbook {build} />{/if}
      </main>
      {#if drawer}<div class="drawer"><Drawer {build} /></div>{/if}
      <button class="fold" onclick={toggleDrawer} aria-label={drawer ? "Fold the drawer" : "Open the drawer"} title="d"
        >{drawer ? "›" : "‹"}</button
      >
    </div>
  </div>
  {#if build.sheet}<PartSheet {build} address={build.sheet} />{/if}
  {#if build.adding}<AddSheet {build} />{/if}
  {#if keys}<Keys {stage} guide={ticked ? undefined : guide} close={() => (keys = false)} />{/if}
  {#if finder}<Finder {build} {go} close={() => (finder = false)} />{/if}
{/if}

<style>
  .frame {
    height: 100vh;
    display: flex;
    flex-direction: column;
  }
  .body {
    flex: 1;
    min-height: 0;
    display: flex;
    position: relative;
  }
  main {
    flex: 1;
    min-width: 0;
    overflow: auto;
    padding: 12px 16px 16px;
  }
  .drawer {
    display: flex;
    min-height: 0;
  }
  @media (max-width: 1099px) {
    .drawer {
      position: absolute;
      inset: 0 16px 0 auto;
      z-index: 14;
      box-shadow: -8px 0 24px rgb(0 0 0 / 0.16);
    }
  }
  @media (max-width: 699px) {
    .body {
      flex-direction: column;
    }
    main {
      padding: 10px 12px 16px;
    }
    .drawer {
      inset: 0 0 54px 0;
    }
    .fold {
      display: none;
    }
  }
  .fold {
    width: 16px;
    background: var(--panel);
    border-left: 1px solid var(--line);
    color: var(--soft);
    cursor: pointer;
  }
</style>
