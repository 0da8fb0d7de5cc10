<script lang="ts">
  import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { Asked } from "$lib/state/asked.svelte";
  import { roomAddress, setValueAt } from "$lib/document/addresses";

  import SolvedCurve from "./SolvedCurve.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { significant } from "$lib/units/format";
  import Faults from "$lib/ui/Faults.svelte";

  /** One figure or duty for a wanted margin, temperature, flow or level; the answer is looked at as a trial. */
  let { build }: { build: BuildState } = $props();
  type Goal = NonNullable<Schemas["SolveIn"]["goal"]>;
  const GOALS: [Goal, string][] = [
    ["margin", "margin of"],
    ["temperature", "temperature of"],
    ["rise", "rise over the room of"],
    ["flow", "flow through"],
    ["level", "sound level"],
    ["watts", "watts held by"],
    ["height", "height of the highest stack"],
    ["burst", "seconds that a burst holds, of"],
    ["after", "temperature in time of"],
    ["held_back", "time with watts given up, of"],
  ];
  const IN_TIME: Goal[] = ["after", "held_back"];
  const UNITS: Record<Goal, string> = {
    margin: "K",
    temperature: "°C",
    rise: "K",
    flow: "l/min or m³/h",
    level: "dBA",
    watts: "W",
    height: "mm",
    burst: "s",
    after: "°C",
    held_back: "%",
  };
  let address = $state("");
  let goal = $state<Goal>("margin");
  let of = $state("");
  let wanted = $state(10);
  let minutes = $state(30);
  let answer = $state.raw<Schemas["SolvedFor"] | null>(null);
  let faults = $state.raw<Fault[]>([]);
  let busy = $state(false);

  const room = $derived(build.document ? roomAddress(build.document) : "");
  const offers = new Asked<Schemas["Offers"]>();
  $effect(() => {
    const { document, workloadId: workload } = build;
    const place = tightest?.address ?? null;
    if (document && workload)
      return offers.ask((as) => client.POST("/api/offers", { ...as, body: { document, workload, place } }), 150);
  });
  const choices = $derived(offers.answer?.unknowns ?? []);
  const chosen = $derived(choices.some((c) => c.address === address) ? address : (choices[0]?.address ?? ""));
  const tightest = $derived(build.result?.places.find((place) => place.address === build.result?.tightest));
  const ready = $derived(offers.answer?.questions ?? []);
  const targets = $derived(targetsOf(goal, build));
  const target = $derived(
    targets.some(([id]) => id === of)
      ? of
      : (targets.find(([id]) => id === tightest?.address)?.[0] ?? targets[0]?.[0] ?? ""),
  );
  const unit = $derived(UNITS[goal]);
  const noTarget = $derived(!targets.length && (goal === "burst" || goal === "held_back"));

  // an answer is of the build as it stood when it was asked
  const asIs = $derived([build.document, build.workloadId, build.roomC]);
  $effect(() => {
    if (asIs) answer = null;
  });

  /** Sources of the load that give up watts at a limit. */
  const throttling = $derived(
    (build.document?.parts ?? [])
      .filter((part) => "places" in part && part.places?.some((place) => place.throttles))
      .map((part) => part.id)
      .filter((id) => id in (build.workload?.watts ?? {})),
  );
  /** What a goal may be of: whatever is warm may be asked for its temperature. */
  function targetsOf(wantedGoal: Goal, { result, workload, sourceNames }: BuildState): [string, string][] {
    const named = (list: { address: string; name: string }[] = [], says = (name: string) => name) =>
      list.map(({ address: id, name }): [string, string] => [id, says(name)]);
    if (wantedGoal === "level" || wantedGoal === "height") return [];
    if (wantedGoal === "flow") return [...named(result?.loops), ...named(result?.paths)];
    const sources = (ids: string[]) => ids.map((id): [string, string] => [id, sourceNames[id] ?? id]);
    if (wantedGoal === "burst") return sources(Object.keys(workload?.burst ?? {}));
    if (wantedGoal === "held_back") return sources(throttling);
    if (wantedGoal === "watts") return sources(Object.keys(workload?.watts ?? {}));
    const places = named(result?.places);
    if (wantedGoal === "margin" || wantedGoal === "after") return places;
    return [
      ...places,
      ...named(result?.zones.filter((zone) => zone.kind === "box")),
      ...named(result?.loops, (name) => `${name}: hottest coolant`),
      ...named(result?.bodies, (name) => `${name}: hottest spot, to the touch`),
    ];
  }

  async function solve() {
    if (!build.document || !chosen) return;
    busy = true;
    const { data, error } = await client.POST("/api/solve-for", {
      body: {
        document: build.document,
        workload: build.workloadId,
        room_c: build.roomC,
        address: chosen,
        goal,
        of: target,
        wanted,
        minutes,
      },
    });
    busy = false;
    answer = data ?? null;
    faults = data ? [] : faultsOf(error);
  }

  function pose(question: Schemas["OfferedQuestion"]) {
    ({ address, of, wanted } = question);
    goal = question.goal as Goal;
    void solve();
  }

  function look(found: Schemas["SolvedFor"]) {
    const label = `${choices.find((c) => c.address === found.address)?.name ?? found.address} ${significant(found.value)}`;
    const rounded = Number(found.value.toPrecision(4));
    if (found.address === room) return build.setRoom(Number(found.value.toFixed(1)));
    if (found.edits.length) return void build.trial.proposeEdits(label, found.edits);
    void build.trial.propose(label, (draft) => setValueAt(draft, found.address, rounded));
  }
</script>

<section class="panel mt-3" aria-label="Solve for a figure">
  <h2>Solve for a figure <span class="soft">{build.workload?.name || build.workloadId}, central values</span></h2>
  <form class="flex flex-wrap items-center gap-2" onsubmit={(event) => (event.preventDefault(), void solve())}>
    <label
      >Which
      <select
        class="field max-w-64"
        value={chosen}
        onchange={(e) => ((address = e.currentTarget.value), (answer = null))}
      >
        {#each choices as item (item.address)}<option value={item.address}>{item.name}</option>{/each}
      </select></label
    >
    <label
      >makes the
      <select class="field" bind:value={goal} onchange={() => (answer = null)}>
        {#each GOALS as [value, name] (value)}<option {value}>{name}</option>{/each}
      </select></label
    >
    {#if targets.length}
      <select
        class="field max-w-52"
        aria-label="Of what"
        value={target}
        onchange={(e) => ((of = e.currentTarget.value), (answer = null))}
      >
        {#each targets as [id, name] (id)}<option value={id}>{name}</option>{/each}
      </select>
    {/if}
    {#if IN_TIME.includes(goal)}
      <NumberField
        label={goal === "after" ? "after" : "of"}
        unit="min over idle"
        value={minutes}
        low={0.1}
        high={1440}
        width={56}
        onchange={(v) => (minutes = v)}
      />
    {/if}
    <NumberField
      label="Wanted"
      {unit}
      value={wanted}
      low={-100}
      high={2000}
      width={64}
      onchange={(v) => (wanted = v)}
    />
    <button class="button main" disabled={busy || !chosen || noTarget}>{busy ? "Solving …" : "Solve"}</button>
  </form>
  <ul class="ready" aria-label="Asked most">
    {#each ready as question, i (i)}
      <li><button class="button" disabled={busy} onclick={() => pose(question)}>{question.says}</button></li>
    {/each}
  </ul>
  {#if noTarget}<p class="soft mt-2">
      {goal === "burst" ? "No source of this load bursts." : "No source of this load gives up watts at a limit."}
    </p>{/if}
  <Faults {faults} alert />
  {#if answer}<SolvedCurve
      {answer}
      name={choices.find((c) => c.address === answer?.address)?.name ?? ""}
      of={targets.find(([id]) => id === answer?.of)?.[1] ?? ""}
    />
    <button class="button" onclick={() => look(answer!)} disabled={!build.editable && answer.address !== room}
      >{answer.address === room ? "Look at it in that room" : "Look at it as a trial"}</button
    >{/if}
</section>

<style>
  .ready {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    margin-top: 10px;
  }
</style>
