<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import { fixed } from "$lib/units/format";

  /** Which loads in which order and how long, from the build's own time constants; what is seen first, noted, and when to stop. */
  let { build, plan = $bindable() }: { build: BuildState; plan: Schemas["TestPlan"] | null } = $props();
  const asked = new Asked<Schemas["TestPlan"]>();
  const ASK_MS = 400;
  let ticked = $state.raw<string[]>([]);
  const key = $derived(`test-seen:${build.id}`);
  $effect(() => {
    const { document, roomC: room_c } = build;
    if (!document || !build.bandsFresh || !build.result || build.result.no_state) return;
    return asked.ask((as) => client.POST("/api/test-plan", { ...as, body: { document, room_c } }), ASK_MS);
  });
  $effect(() => {
    plan = asked.answer;
  });
  $effect(() => {
    ticked = (localStorage.getItem(key) ?? "").split("\n").filter(Boolean);
  });
  function tick(one: string) {
    ticked = ticked.includes(one) ? ticked.filter((known) => known !== one) : [...ticked, one];
    localStorage.setItem(key, ticked.join("\n"));
  }
  const own = $derived(asked.answer?.loads.find((load) => load.workload === build.workloadId));
  const WHEN = { before_power: "Before power", at_start: "As it starts, before the load" } as const;
  const seen = $derived(
    (["before_power", "at_start"] as const).map(
      (when) => [WHEN[when], asked.answer?.seen.filter((one) => one.when === when) ?? []] as const,
    ),
  );
  const open = $derived((asked.answer?.seen ?? []).filter((one) => !ticked.includes(one.key)).length);
</script>

{#if asked.answer && own && !asked.faults.length}
  <p class="length" data-testid="test-length">
    <b>Load on for <span class="num">{own.minutes} min</span>:</b> then every part is within 1 K of where it settles,
    {own.slowest} last.
    {#if own.share_at_30 !== null && own.minutes > 30}30 minutes show
      <span class="num">{fixed(100 * own.share_at_30, 0)} %</span> of its rise.{/if}
    <span class="soft">Read at minute {own.due_min.join(", ")}.</span>
  </p>
  <details class="plan" data-testid="test-plan">
    <summary
      >Test plan: {asked.answer.loads.length}
      {asked.answer.loads.length === 1 ? "load" : "loads"},
      <span class="num">{fixed(asked.answer.minutes / 60, 1)} h</span>{open
        ? `; ${open} ${open === 1 ? "thing" : "things"} to see first`
        : "; all seen"}</summary
    >
    <ol class="loads">
      {#each asked.answer.loads as load (load.workload)}
        <li class:own={load.workload === build.workloadId}>
          <span><strong>{load.name}</strong> <span class="num">{load.minutes} min</span></span>
          <span class="soft">{load.why}. Read at minute {load.due_min.join(", ")}.</span>
        </li>
      {/each}
    </ol>
    {#each asked.answer.skipped as line (line)}<p class="soft">Not planned: {line}</p>{/each}
    <div class="columns">
      <div>
        {#each seen as [title, checks] (title)}
          {#if checks.length}
            <h3>{title}</h3>
            {#each checks as one (one.key)}
              <label class="seen"
                ><input type="checkbox" checked={ticked.includes(one.key)} onchange={() => tick(one.key)} />
                <span>{one.says}</span></label
              >
            {/each}
          {/if}
        {/each}
      </div>
      <div>
        <h3>Locked in {own.name}</h3>
        {#each own.locked as one (one.address)}
          <p>{one.name} {one.told} <span class="soft">({one.by})</span></p>
        {:else}<p class="soft">Nothing turns in this build.</p>{/each}
        <h3>Take the load off when</h3>
        {#each asked.answer.stops as one (one.address + one.says)}<p>{one.says}</p>{/each}
      </div>
    </div>
  </details>
{:else if build.result?.no_state}
  <p class="soft mt-2">No test plan: {build.result.no_state.what}</p>
{:else if asked.faults.length}
  <Faults faults={asked.faults} />
{:else if build.result && !asked.answer}
  <p class="soft mt-2" role="status">Working out how long each load must last …</p>
{/if}

<style>
  .length {
    margin-top: 8px;
  }
  .plan {
    margin-top: 6px;
  }
  summary {
    cursor: pointer;
    min-height: 24px;
  }
  .loads {
    display: grid;
    gap: 3px;
    margin: 6px 0 0 20px;
    list-style: decimal;
  }
  .loads span {
    margin-right: 8px;
  }
  .loads .own strong {
    color: var(--accent-text);
  }
  .columns {
    display: grid;
    gap: 4px 24px;
  }
  @media (min-width: 800px) {
    .columns {
      grid-template-columns: 1fr 1fr;
    }
  }
  h3 {
    margin-top: 8px;
    font-weight: 700;
  }
  .seen {
    display: flex;
    gap: 8px;
    align-items: baseline;
    min-height: 28px;
    cursor: pointer;
  }
</style>
