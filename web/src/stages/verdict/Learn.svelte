<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import { fixed, signed } from "$lib/units/format";
  import FactorRow from "./FactorRow.svelte";
  import FromOthers from "./FromOthers.svelte";
  import HotDay from "./HotDay.svelte";
  import { loadsOf, toLearnFrom } from "./loads";

  /** What runs teach: factors on figures, before and after, and what they make of the hot day. */
  let { build, cards }: { build: BuildState; cards: Schemas["RunCard"][] } = $props();
  const FIRST_SHOWN = 6;
  const loads = $derived(loadsOf(cards));
  const own = $derived(toLearnFrom(loads));
  let chosen = $state.raw<string[] | null>(null);
  let free = $state.raw<string[]>([]);
  let all = $state(false);
  const ticked = $derived(chosen === null ? own : loads.filter(({ key }) => chosen!.includes(key)));
  const isTicked = $derived((key: string) => ticked.some((load) => load.key === key));
  const asked = new Asked<Schemas["LearnOut"]>();
  const found = $derived(ticked.length ? asked.answer : null);
  const proposed = $derived(
    (found?.learnable ?? []).filter((item) => !free.includes(item.address) && !item.address.includes("/watts/")),
  );
  const learnable = $derived(new Set((found?.learnable ?? []).map((item) => item.address)));
  const shown = $derived(all ? (found?.unknowns ?? []) : (found?.unknowns ?? []).slice(0, FIRST_SHOWN));
  const taken = $derived(build.document?.calibration ?? null);

  $effect(() => {
    const body = { loads: ticked.map(({ run, window }) => ({ run, window })), free };
    const path = { build_id: build.id };
    if (!ticked.length) return;
    return asked.ask((as) => client.POST("/api/builds/{build_id}/learn", { ...as, params: { path }, body }), 0);
  });

  function tick(key: string) {
    const now = ticked.map((load) => load.key);
    chosen = isTicked(key) ? now.filter((one) => one !== key) : [...now, key];
  }

  function accept() {
    const calibration = found?.calibration;
    if (calibration) build.edit(`learnt from ${ticked.length} runs`, (draft) => (draft.calibration = calibration));
  }

  const revoke = () => build.edit("what runs taught taken back", (draft) => (draft.calibration = null));
</script>

<div class="mt-2 flex flex-wrap gap-x-4 gap-y-1" role="group" aria-label="Runs to learn from">
  {#each loads as load (load.key)}
    <label class="flex items-center gap-1.5"
      ><input type="checkbox" checked={isTicked(load.key)} onchange={() => tick(load.key)} />{load.name}</label
    >
  {/each}
</div>
<Faults faults={ticked.length ? asked.faults : []} alert />
{#if !ticked.length}<p class="soft mt-3">Tick a run to learn from.</p>{/if}
{#if asked.busy}<p class="soft mt-3" role="status">Learning …</p>{/if}
{#if found}
  <p class="say mt-3" data-testid="learnt" class:old={asked.busy}>{found.sentence}</p>
  <div class="mt-2 grid grid-cols-[minmax(0,1fr)] gap-3 lg:grid-cols-[minmax(0,1fr)_290px]" class:old={asked.busy}>
    <div class="grid min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-3">
      <section class="panel">
        <div class="overflow-x-auto">
          <table class="plain">
            <thead
              ><tr
                ><th>Figure</th><th class="scale">hatched: assumed, solid: learnt</th><th class="text-right"
                  >factor learnt</th
                ></tr
              ></thead
            >
            <tbody
              >{#each shown as unknown (unknown.id)}<FactorRow {unknown} />{/each}</tbody
            >
          </table>
        </div>
        {#if found.unknowns.length > FIRST_SHOWN}
          <button class="link" aria-expanded={all} onclick={() => (all = !all)}
            >{all ? "fewer" : `all ${found.unknowns.length} that moved along`}</button
          >
        {/if}
        <div class="mt-2 flex flex-wrap items-center gap-1.5">
          {#each free as address (address)}
            <button class="button text-sm" onclick={() => (free = free.filter((one) => one !== address))}
              >✕ {found.learnable.find((item) => item.address === address)?.name ?? address}</button
            >
          {/each}
          {#each (found.suspected ?? []).filter((one) => learnable.has(one.address) && !free.includes(one.address)) as one (one.address)}
            <button class="button text-sm" title={one.says} onclick={() => (free = [...free, one.address])}
              >+ suspected: {one.name}</button
            >
          {/each}
          <label class="flex items-center gap-2"
            ><span class="soft">Ask for a figure that may be off by more</span>
            <select
              class="field max-w-56"
              value=""
              onchange={(e) => {
                if (e.currentTarget.value) free = [...free, e.currentTarget.value];
                e.currentTarget.value = "";
              }}
            >
              <option value="">choose …</option>
              {#each proposed as item (item.address)}<option value={item.address}>{item.name}</option>{/each}
            </select></label
          >
        </div>
      </section>
      <section class="panel">
        <h2>Measured less predicted</h2>
        <p class="soft">
          {fixed(found.rms_before_k)} K before, {fixed(found.rms_after_k)} K after (root mean square; what all readings of
          a run share is left out where its room was not written down)
        </p>
        <div class="overflow-x-auto">
          <table class="plain">
            <thead
              ><tr
                ><th>Part</th><th>Run</th><th class="text-right">before</th><th class="text-right">after</th><th
                  class="text-right">known to</th
                ></tr
              ></thead
            >
            <tbody>
              {#each found.residuals as item, i (i)}
                <tr
                  ><td class="font-semibold">{item.name}</td><td>{item.run}</td><td class="num text-right"
                    >{signed(item.before_k)} K</td
                  ><td class="num text-right font-semibold">{signed(item.after_k)} K</td><td class="num soft text-right"
                    >± {fixed(item.half_k)} K</td
                  ></tr
                >
              {/each}
            </tbody>
          </table>
        </div>
      </section>
      <section class="panel">
        <h2>Each run from the others</h2>
        {#each found.from_others as run, i (i)}<FromOthers {run} />{/each}
        {#if found.not_parted.length}
          <h3 class="mt-2 font-semibold">What the readings cannot part</h3>
          {#each found.not_parted as pair, i (i)}
            <p class="soft">{pair.first} and {pair.second}: known only together (r {fixed(pair.correlation, 2)})</p>
          {/each}
        {/if}
      </section>
    </div>
    <div class="grid content-start gap-3">
      <HotDay day={found.hot_day} />
      <section class="panel">
        <button class="button main w-full" disabled={!build.editable || asked.busy} onclick={accept}
          >Take it over into the draft</button
        >
        <p class="soft mt-1 text-sm">
          Figures become calibrated, with these runs as their source; Forecast, next changes and maps follow. Undo takes
          it back, and so does removing a run.
        </p>
        {#if taken}
          <h3 class="mt-2 font-semibold">In the draft now</h3>
          <p>from {taken.runs.map((run) => run.name).join(", ")}</p>
          <button class="button mt-1 text-sm" disabled={!build.editable} onclick={revoke}>Revoke it</button>
        {/if}
      </section>
    </div>
  </div>
{/if}

<style>
  .say {
    font-size: 19px;
    font-weight: 600;
  }
  .old {
    opacity: 0.55;
  }
  .scale {
    width: 40%;
    min-width: 180px;
  }
</style>
