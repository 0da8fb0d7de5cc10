<script lang="ts">
  import { onDestroy, untrack } from "svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import { demandsOf, sizeOf, type Axis, type Criterion, type Demands } from "$lib/document/vary";
  import { Studies } from "$lib/state/study.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import CandidateList from "./CandidateList.svelte";
  import CandidateView from "./CandidateView.svelte";
  import Demand from "./Demand.svelte";
  import Dots from "./Dots.svelte";
  import { filtered, type Brush } from "./filter";
  import { acrossOf, frontOf, spreadOver, type Shown } from "./tradeoffs";
  import StartFromWatts from "./StartFromWatts.svelte";
  import StudyBar from "./StudyBar.svelte";
  import Vary from "./Vary.svelte";

  /** Candidates: what may vary, what is demanded, every combination solved in the background, one taken over. */
  let { build }: { build: BuildState } = $props();
  const studies = untrack(() => new Studies(build));
  let axes = $state.raw<Axis[]>([]);
  let demands = $state.raw<Demands>({ margins: [], sounds: [] });
  let criteria = $state.raw<Criterion[]>(["margin", "sound", "height"]);
  let setup = $state<boolean | null>(null);
  let brush = $state.raw<Brush>({ rectangle: null, options: {} });

  /** so many trade-offs are named first */
  const NAMED = 5;
  let chosen = $state.raw<Shown | null>(null);
  const figures: Shown = $derived(
    chosen ?? { x: studies.result ? acrossOf(studies.result) : "level_dba", y: "margin_k" },
  );

  const empty = $derived(!build.document?.routes.length);
  const offers = new Asked<Schemas["Offers"]>();
  const ask = () => client.POST("/api/offers", { body: { document: build.document!, workload: build.workloadId } });
  const offered = $derived(offers.answer?.axes ?? []);
  const setupOpen = $derived(setup ?? !studies.result);
  const shown = $derived(studies.result ? filtered(studies, studies.result, brush) : []);
  const front = $derived(studies.result ? frontOf(studies.result, shown, figures) : []);
  const best = $derived(studies.result ? spreadOver(studies.result, front, figures, NAMED) : []);

  $effect(() => {
    if (build.id) void untrack(() => studies.load());
  });
  // what varies and is demanded starts from the build; from then on it is the user's
  $effect(() => {
    if (build.document && build.workloadId) return offers.ask(ask, 150);
  });
  $effect(() => {
    if (offered.length && !empty && !axes.length) untrack(() => begin(offered));
  });
  onDestroy(() => studies.stop());
  let demanded = false;

  function begin(from: readonly Axis[]) {
    if (!build.document) return;
    axes = from.filter((axis) => axis.first);
    // what somebody demanded before anything was offered stays demanded
    if (!demanded) demands = { ...demandsOf(build.document, build.workloadId), fits: demands.fits };
    demanded = true;
  }

  async function solve() {
    brush = { rectangle: null, options: {} };
    setup = null;
    await studies.ask(axes, demands, criteria, "");
  }

  /** A build begun from watts: the first study of it is asked at once. */
  async function begun(wanted: { margin: number; sound: number; height: number | null }) {
    // asked by itself: what is offered beside the draft may be asked anew meanwhile, and end this one
    const { data } = await ask();
    begin(data?.axes ?? []);
    const workload = build.workloadId;
    demands = {
      margins: [{ workload, place: null, at_least_k: wanted.margin }],
      sounds: [{ workload, at_most_dba: wanted.sound }],
      height_mm: wanted.height,
    };
    await solve();
  }

  const namesOf = $derived(Object.fromEntries(offered.map((axis) => [axis.address, axis.name])));
  const failed = $derived(Object.values(studies.result?.failures ?? {}));
  const slotName = (id: string) => build.document?.slots.find((slot) => slot.id === id)?.name || id;
  const summary = $derived(
    [
      ...demands.margins.slice(0, 1).map((d) => `${d.at_least_k} K`),
      ...demands.sounds.slice(0, 1).map((d) => `${d.at_most_dba} dBA`),
      ...(demands.height_mm ? [`${demands.height_mm} mm`] : []),
      ...(demands.fits ?? []).map((id) => `goes into ${slotName(id)}`),
      ...(demands.price ? [`price ${demands.price}`] : []),
    ].join(", "),
  );
</script>

{#if empty}
  <StartFromWatts {build} {begun} />
{:else}
  {#if setupOpen}
    <div class="setup">
      <Vary {build} {offered} bind:axes />
      <Demand {build} bind:demands bind:criteria />
    </div>
  {/if}
  <StudyBar {build} {studies} size={sizeOf(axes)} {solve}>
    {#if !setupOpen}
      <span
        >{axes.length}
        {axes.length === 1 ? "figure varies" : "figures vary"}, demanded {summary || "nothing"}
        <button class="button ml-2" onclick={() => (setup = true)}>Change the question</button></span
      >
    {/if}
  </StudyBar>
  <Faults faults={studies.faults} alert />
  {#if studies.result}
    <p class="mt-2"><strong data-testid="study-says">{studies.result.sentence}</strong></p>
    {#if failed.length}
      <p class="soft text-sm">
        {failed.length} could not be solved and are left out: {failed[0]}{failed.length > 1 ? " …" : ""}
      </p>
    {/if}
    <div class="results">
      <div>
        <Dots
          {studies}
          result={studies.result}
          {shown}
          names={namesOf}
          bind:figures={() => figures, (next) => (chosen = next)}
          {front}
          {best}
          bind:brush
        />
        <CandidateList {studies} result={studies.result} {shown} {best} />
      </div>
      <CandidateView {build} {studies} result={studies.result} names={namesOf} />
    </div>
  {/if}
{/if}

<style>
  .setup {
    display: grid;
    grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
    gap: 12px;
    margin-top: 10px;
  }
  .results {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    gap: 12px;
    margin-top: 8px;
    align-items: start;
  }
</style>
