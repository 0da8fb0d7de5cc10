<script lang="ts">
  import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { fixed } from "$lib/units/format";
  import Faults from "$lib/ui/Faults.svelte";
  import FromOthers from "./FromOthers.svelte";
  import { foretold } from "./foretold";
  import HeldBack from "./HeldBack.svelte";
  import Quantities from "./Quantities.svelte";
  import BandRow from "./BandRow.svelte";
  import MeasuredTowers from "./MeasuredTowers.svelte";
  import { loadsOf } from "./loads";

  let { build, cards }: { build: BuildState; cards: Schemas["RunCard"][] } = $props();
  const loads = $derived(loadsOf(cards));
  let picked = $state<string | null>(null);
  const load = $derived(loads.find((one) => one.key === picked) ?? loads.at(-1)!);
  let verdict = $state.raw<Schemas["VerdictOut"] | null>(null);
  let faults = $state.raw<Fault[]>([]);
  const card = $derived(load.card);
  let fromOthers = $state.raw<Schemas["FromOthers"][]>([]);
  const own = $derived(fromOthers.find((one) => one.run === load.name));

  $effect(() => {
    const [id, all] = [build.id, loads];
    let wanted = true;
    void foretold(id, all).then((found) => wanted && (fromOthers = found));
    return () => (wanted = false);
  });
  const low = $derived(Math.min(...(verdict?.places ?? []).flatMap((p) => [p.predicted_low, p.measured_low])) - 2);
  const high = $derived(Math.max(...(verdict?.places ?? []).flatMap((p) => [p.predicted_high, p.measured_high])) + 2);

  const parts = $derived(
    Object.fromEntries(
      (build.document?.routes ?? []).flatMap((route) => route.hops.map((hop) => [hop.id, hop.part ?? ""] as const)),
    ),
  );

  /** What a suspect's figure belongs to: watts stand in a workload and belong to their source; the room has no sheet. */
  function opens(address: string): string | null {
    const [owner, field, source] = address.split("/");
    return (field === "watts" ? source : owner === "room" ? null : owner) ?? null;
  }

  /** The reading that parts the suspects stands first among the fields of the next run, then those of this one. */
  function readNext({ read_next, places }: Schemas["VerdictOut"]) {
    build.readNext = [read_next!.role, ...places.map((place) => place.role)].slice(0, 6);
    location.hash = `/build/${build.id}/bench`;
  }

  const roomOf = ({ room_c, room_half_k, places }: Schemas["VerdictOut"]) =>
    room_half_k && !places.length
      ? "not read"
      : room_half_k
        ? `${fixed(room_c)} ± ${fixed(room_half_k)} °C as the readings have it: margins carry that doubt, differences do not`
        : `${fixed(room_c)} °C`;

  $effect(() => {
    const { run, window } = load;
    let wanted = true;
    verdict = null;
    const params = { path: { run_id: run }, query: { window } };
    void client.GET("/api/runs/{run_id}/verdict", { params }).then(({ data, error }) => {
      if (!wanted) return;
      verdict = data ?? null;
      faults = data ? [] : faultsOf(error);
    });
    return () => (wanted = false);
  });
</script>

<p class="soft mt-1">predicted band against measured value, at the run's own room, watts and speeds</p>
<div class="mt-2 flex flex-wrap gap-1.5" role="radiogroup" aria-label="Run">
  {#each loads as item (item.key)}
    <button
      class="button"
      class:main={item.key === load.key}
      role="radio"
      aria-checked={item.key === load.key}
      onclick={() => (picked = item.key)}>{item.name}</button
    >
  {/each}
</div>
<Faults {faults} alert />
{#if !verdict}
  <p class="soft mt-4">{faults.length ? "" : "Holding it against the prediction …"}</p>
{:else}
  <section class="panel mt-3">
    <p class="say" data-testid="verdict">{verdict.sentence}</p>
    <p class="soft">
      {load.name}, revision {card.revision}, room {roomOf(verdict)}. The band holds 90 %.
    </p>
    {#if verdict.suspects.length}
      <ul class="mt-2">
        {#each verdict.suspects as suspect (suspect.address)}
          <li>
            <strong>{suspect.name}</strong>{suspect.sure ? "" : ", perhaps"}: {suspect.says}
            {#if opens(suspect.address)}
              <button
                class="button text-sm"
                onclick={() => ((build.sheet = opens(suspect.address)), (location.hash = `/build/${build.id}/route`))}
                >Open it</button
              >
            {/if}
          </li>
        {/each}
      </ul>
    {/if}
    {#if verdict.suspects.length}
      <p class="mt-1 flex flex-wrap gap-2">
        <a class="button text-sm" href={`#/build/${build.id}/verdict/learn`}>Learn from this run</a>
        {#if verdict.read_next?.role && build.editable}
          <button class="button text-sm" onclick={() => readNext(verdict!)}
            >Read {verdict.read_next.name} in the next run</button
          >
        {/if}
      </p>
    {/if}
    {#each verdict.excluded as line, i (i)}<p class="soft text-sm">{line}</p>{/each}
  </section>
  <section class="panel mt-3"><MeasuredTowers predicted={verdict.predicted} {verdict} {parts} /></section>
  {#if verdict.places.length}
    <section class="panel mt-3">
      <div class="overflow-x-auto">
        <table class="plain">
          <thead
            ><tr
              ><th>Part</th><th class="scale"
                >predicted band and measured dot, {fixed(low, 0)} to {fixed(high, 0)} °C</th
              ><th class="text-right">predicted</th><th class="text-right">measured</th><th class="text-right"
                >off by</th
              ><th>conclusion</th></tr
            ></thead
          >
          <tbody>
            {#each verdict.places as place, i (i)}<BandRow {place} {low} {high} />{/each}
          </tbody>
        </table>
      </div>
    </section>
  {/if}
  {#if own}<section class="panel mt-3" data-testid="from-others"><FromOthers run={own} /></section>{/if}
  <HeldBack held={verdict.held_back} />
  <Quantities quantities={verdict.quantities} />
  <p class="soft mt-2 text-sm">
    Differences under 1 K count as none. An estimate held against a measurement; it certifies nothing.
  </p>
{/if}

<style>
  .say {
    font-size: 19px;
    font-weight: 600;
  }
  .scale {
    width: 36%;
  }
</style>
