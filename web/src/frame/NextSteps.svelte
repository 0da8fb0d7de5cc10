<script lang="ts">
  import { tick } from "svelte";
  import { client, type Schemas } from "$lib/api/client";
  import type { AskedFrom } from "$lib/api/place";
  import { Asked } from "$lib/state/asked.svelte";
  import { lockName, locksOf, toggleLock } from "$lib/document/locks";
  import { placeOf } from "$lib/document/build";
  import type { BuildState } from "$lib/state/build.svelte";
  import { fixed, signed } from "$lib/units/format";
  import LockButton from "$lib/ui/LockButton.svelte";
  import Faults from "$lib/ui/Faults.svelte";

  /** The ranked next changes for the part in view: kelvins won, what it costs, what it does to the others. */
  let { build, place }: { build: BuildState; place: string } = $props();
  const SHOWN = 9;
  type Change = Schemas["NextChange"];
  // figures and duties come with the bands, for another part than theirs by themselves; changes of kind, each a machine of
  // its own, are filled in after
  const other = new Asked<Schemas["NextChanges"]>();
  const whole = new Asked<Schemas["NextChanges"]>();
  const QUICK_MS = 40;
  const WHOLE_MS = 200;
  let all = $state(false);

  const question = (short: boolean) => {
    const { document, workloadId: workload, roomC: room_c } = build;
    if (!document || !workload || !placeOf(document, place)) return null;
    const body = { document, place, workload, room_c, quick: short };
    return (as: AskedFrom) => client.POST("/api/next-changes", { ...as, body });
  };
  const came = $derived(build.forecast.changes);
  const withBands = $derived(came?.place === place && came.workload === build.workloadId);
  $effect(() => {
    const ask = build.bandsFresh && !withBands && question(true);
    if (ask) return other.ask(ask, QUICK_MS);
  });
  $effect(() => {
    const ask = build.bandsFresh && question(false);
    if (ask) return whole.ask(ask, WHOLE_MS);
  });
  const quick = $derived({
    answer: withBands ? came : other.answer,
    faults: withBands ? [] : other.faults,
    busy: !build.bandsFresh || (!withBands && other.busy),
  });
  const unsettled = $derived(whole.busy || !build.bandsFresh);
  const filling = $derived(unsettled && !quick.busy);
  const asked = $derived(filling ? quick : whole);
  /** Changes of kind of the last whole answer about the same part keep their places until they are solved anew. */
  const waiting = $derived(
    filling && whole.answer?.place === quick.answer?.place && whole.answer?.workload === quick.answer?.workload
      ? (whole.answer?.changes.filter((change) => change.alone) ?? [])
      : [],
  );
  /** A step that brings another part over its limit stands behind all that do not. */
  const byWorth = (a: Change, b: Change) =>
    Number(a.breaks.length > 0) - Number(b.breaks.length > 0) || b.won_k - a.won_k;
  const ranked = $derived([...(asked.answer?.changes ?? []), ...waiting].sort(byWorth));
  const isWaiting = (change: Change) => waiting.includes(change);
  const worth = $derived(ranked.filter((change) => change.won_k >= 0.1));
  const shown = $derived(all ? ranked : worth.slice(0, SHOWN));
  const most = $derived(Math.max(ranked[0]?.won_k ?? 1, 0.5));
  const stage = $derived(Boolean(build.trial.document));

  /** What a step costs: sound where it changes, then size and mass, then money where something is bought. */
  const costs = (change: Change) =>
    [
      ...(Math.abs(change.louder_db) >= 0.1 ? [`${signed(change.louder_db)} dB`] : []),
      ...change.costs,
      ...(change.buys ? [change.price === null ? "price unknown" : priced(change.price, change.won_k)] : []),
      ...(change.hours ? [worked(change.hours, change.won_k)] : []),
    ].join(", ");
  /** Money, and what each unit of it wins. */
  const priced = (price: number, won: number) =>
    `price ${fixed(price, 0)}${price > 0 && won >= 0.1 ? `, ${fixed(won / price, 2)} K for each` : ""}`;
  /** Work on the finished machine, and what each hour of it wins. */
  const worked = (hours: number, won: number) =>
    `${fixed(hours)} h${won >= 0.1 ? `, ${fixed(won / hours, 1)} K an hour` : ""}`;
  /** What tells steps apart, also after the list is ranked anew: parts may share a name. */
  const stepOf = (change: Change) => `${change.about}/${change.edits[0]?.field}: ${change.label}`;
  function look(change: Change) {
    if (isWaiting(change)) return;
    void build.trial.proposeEdits(change.label, change.edits, change.buys ? change.price_key : "");
  }
  // a step is remembered by what it says: the list may be ranked anew, or lose it, while it is pointed at
  let pointed = $state("");
  const point = (event: Event) =>
    (pointed = (event.target as HTMLElement).closest<HTMLElement>("[data-step]")?.dataset.step ?? "");
  const leave = () => (pointed = "");
  // a list ranked anew moves its rows, and a row that is moved loses the focus
  let list = $state<HTMLElement>();
  $effect.pre(() => {
    const steps = shown.map(stepOf);
    const held = list?.contains(document.activeElement) ? (document.activeElement as HTMLElement).dataset.step : "";
    if (!held || !steps.includes(held)) return;
    tick().then(() => list?.querySelector<HTMLElement>(`[data-step="${CSS.escape(held)}"]`)?.focus());
  });
  $effect(() => {
    const change = shown.find((one) => stepOf(one) === pointed);
    if (!change) return;
    const others = change.others.map((other) => [other.address, other.won_k] as const);
    build.preview = Object.fromEntries([[place, change.won_k], ...others]);
    return () => (build.preview = null);
  });
  const locks = $derived(build.document ? locksOf(build.document) : []);
  const harms = (change: Change) => change.others.filter((other) => other.won_k <= -0.3);
</script>

<h3>Next changes</h3>
<Faults faults={asked.faults} />
{#if asked.answer}
  <p class="text-sm" class:soft={quick.busy}>{asked.answer.sentence}</p>
  {#if locks.length}
    <p class="soft text-sm" data-testid="locks">
      Left alone:
      {#each locks as lock (lock)}
        <span class="whitespace-nowrap"
          >{lockName(build.document!, lock)}
          <LockButton
            locked
            name={lockName(build.document!, lock)}
            disabled={!build.editable}
            onclick={() => build.edit(`unlock ${lockName(build.document!, lock)}`, (draft) => toggleLock(draft, lock))}
          /></span
        >
      {/each}
    </p>
  {/if}
  <ul
    bind:this={list}
    aria-busy={quick.busy || unsettled}
    data-testid="next-changes"
    onpointerover={point}
    onpointerleave={leave}
    onfocusin={point}
    onfocusout={leave}
  >
    {#each shown as change (stepOf(change))}
      <li>
        <button
          class="step"
          disabled={!build.editable}
          aria-disabled={isWaiting(change)}
          data-step={stepOf(change)}
          onclick={() => look(change)}
        >
          <span class="row"
            ><span>{change.label}</span><span class="num" class:worse={change.won_k < 0} class:anew={isWaiting(change)}
              >{signed(-change.won_k)} K</span
            ></span
          >
          <span class="bar" class:pale={quick.busy}
            ><span style:width="{Math.max((100 * change.won_k) / most, 0)}%"></span></span
          >
          <span class="row soft small"
            ><span
              >{#if change.breaks.length}<strong class="worse">over its limit: {change.breaks.join(", ")}</strong>{/if}
              {costs(change)}</span
            ><span class="worse"
              >{harms(change)
                .map((other) => `${other.name} ${signed(-other.won_k)}`)
                .join(", ")}</span
            ></span
          >
        </button>
      </li>
    {/each}
  </ul>
  {#if !worth.length}<p class="soft text-sm">No change is worth a tenth of a kelvin.</p>{/if}
  {#if ranked.length > shown.length || all}
    <button class="button mt-1" onclick={() => (all = !all)}>{all ? "The best only" : `All ${ranked.length}`}</button>
  {/if}
  <p class="soft text-sm">
    Point at a change to preview it; Enter tries it{stage ? ", Esc leaves the one in view" : ""}.
  </p>
{:else if !asked.faults.length}<p class="soft text-sm">Trying every step …</p>{/if}

<style>
  h3 {
    margin: 14px 0 4px;
    font-weight: 650;
  }
  .step {
    display: block;
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
  .row {
    display: flex;
    justify-content: space-between;
    gap: 8px;
    font-size: 14px;
  }
  .row .num {
    white-space: nowrap;
    font-weight: 650;
  }
  .small {
    font-size: 12.5px;
  }
  .worse {
    color: var(--too-hot);
  }
  .bar {
    display: block;
    height: 3px;
    margin: 2px 0;
  }
  .bar span {
    display: block;
    height: 100%;
    border-radius: 2px;
    background: var(--holds);
  }
  .pale {
    opacity: 0.5;
  }
</style>
