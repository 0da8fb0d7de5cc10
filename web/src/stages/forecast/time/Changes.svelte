<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import { fixed, signed } from "$lib/units/format";
  import type { Aim } from "./time";

  /** Changes ranked by what a load does in time: a burst, a part after so many minutes, watts given up. */
  let { build, aims, before }: { build: BuildState; aims: Aim[]; before: string } = $props();
  const SHOWN = 6;
  const PAUSE_MS = 500;
  const UNITS = { burst: "s", after: "K", held_back: "%" } as const;
  const WORTH = { burst: 1, after: 0.1, held_back: 1 } as const;
  type Change = Schemas["NextChange"];
  const asked = new Asked<Schemas["NextChanges"]>();
  let key = $state("");
  let all = $state(false);
  const aim = $derived(aims.find((one) => one.key === key) ?? aims[0]);
  const kind = $derived(aim?.kind ?? "after");
  const question = $derived(aim && { kind: aim.kind, of: aim.of, minutes: aim.minutes, before });
  const asJson = $derived(JSON.stringify(question));

  $effect(() => {
    const { document, workloadId: workload, roomC: room_c } = build;
    if (!document || !workload || !asJson) return;
    const body = { document, workload, room_c, aim: JSON.parse(asJson) as Schemas["AimIn"] };
    return asked.ask((as) => client.POST("/api/next-changes", { ...as, body }), PAUSE_MS);
  });
  const answer = $derived(asked.answer);
  const better = $derived(answer?.aim?.more_is_better ? 1 : -1);
  const worth = $derived(
    (answer?.changes ?? []).filter((change) => better * (change.gained ?? 0) >= WORTH[answer?.aim?.kind ?? "after"]),
  );
  const shown = $derived(all ? (answer?.changes ?? []) : worth.slice(0, SHOWN));
  const look = (change: Change) =>
    void build.trial.proposeEdits(change.label, change.edits, change.buys ? change.price_key : "");
  const costs = (change: Change) =>
    [
      ...(Math.abs(change.louder_db) >= 0.1 ? [`${signed(change.louder_db)} dB`] : []),
      ...change.costs,
      ...(change.buys && change.price !== null ? [`price ${fixed(change.price, 0)}`] : []),
      ...(change.breaks.length ? [`over its limit: ${change.breaks.join(", ")}`] : []),
    ].join(", ");
</script>

{#if aims.length}
  <h2 class="mt-3">Next changes in time</h2>
  <p class="flex flex-wrap items-baseline gap-x-3 gap-y-1">
    <label
      >aim at the
      <select class="field max-w-64" value={aim?.key} onchange={(e) => (key = e.currentTarget.value)}>
        {#each aims as one (one.key)}<option value={one.key}>{one.says}</option>{/each}
      </select></label
    >
    {#if asked.busy}<span class="soft text-sm" role="status">running every step in time …</span>{/if}
  </p>
  <Faults faults={asked.faults} />
  {#if answer}
    <p class="mt-1" class:asking={asked.busy} data-testid="changes-in-time">{answer.sentence}</p>
    <ul class:asking={asked.busy} aria-busy={asked.busy}>
      {#each shown as change (change.about + change.label)}
        <li>
          <button class="step" disabled={!build.editable} onclick={() => look(change)}>
            <span>{change.label} <span class="soft text-sm">{costs(change)}</span></span>
            <span class="num" class:worse={better * (change.gained ?? 0) < 0}
              >{signed(change.gained ?? 0, kind === "after" ? 1 : 0)} {UNITS[answer.aim?.kind ?? "after"]}</span
            >
          </button>
        </li>
      {/each}
    </ul>
    {#if answer.changes.length > shown.length || all}
      <button class="button mt-1" onclick={() => (all = !all)}
        >{all ? "The best only" : `All ${answer.changes.length}`}</button
      >
    {/if}
  {/if}
{/if}

<style>
  .step {
    display: flex;
    justify-content: space-between;
    gap: 12px;
    width: 100%;
    text-align: left;
    padding: 4px 6px;
    border-radius: 6px;
    cursor: pointer;
  }
  .step:hover:not(:disabled),
  .step:focus-visible {
    background: var(--sunk);
  }
  .step .num {
    white-space: nowrap;
    font-weight: 650;
  }
  .worse {
    color: var(--too-hot);
  }
</style>
