<script lang="ts">
  import { client, sentence, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/asked.svelte";
  import type { BuildState } from "$lib/build.svelte";
  import { ownerOf, type BuildDocument, type Part } from "$lib/document/build";
  import { signed } from "$lib/units/format";

  /** The ranked next changes for the part in view: kelvins won, what it costs, what it does to the others. */
  let { build, place }: { build: BuildState; place: string } = $props();
  const SHOWN = 9;
  type Change = Schemas["NextChange"];
  const asked = new Asked<Schemas["NextChanges"]>();
  let all = $state(false);

  $effect(() => {
    const document = build.document;
    const question = { place, workload: build.workloadId, room_c: build.roomC };
    if (!document || !question.workload) return;
    return asked.ask(() => client.POST("/api/next-changes", { body: { document, ...question } }), 350);
  });
  const ranked = $derived(asked.answer?.changes ?? []);
  const worth = $derived(ranked.filter((change) => change.won_k >= 0.1));
  const shown = $derived(all ? ranked : worth.slice(0, SHOWN));
  const most = $derived(Math.max(ranked[0]?.won_k ?? 1, 0.5));
  const stage = $derived(Boolean(build.trial.document));

  function put(draft: BuildDocument, change: Change) {
    for (const edit of change.edits) {
      if (edit.target === "parts" && edit.field === "+") {
        draft.parts.push(structuredClone(edit.value) as Part);
        continue;
      }
      const path = edit.field.split("/");
      let target = ownerOf(draft, edit.target) as Record<string, unknown> | undefined;
      for (const key of path.slice(0, -1)) target = target?.[key] as Record<string, unknown> | undefined;
      if (target) target[path.at(-1)!] = edit.value;
    }
  }

  /** What a step costs: sound where it changes, then size and mass. */
  const costs = (change: Change) =>
    [...(Math.abs(change.louder_db) >= 0.1 ? [`${signed(change.louder_db)} dB`] : []), ...change.costs].join(", ");
  function preview(change: Change) {
    const others = change.others.map((other) => [other.address, other.won_k] as const);
    build.preview = Object.fromEntries([[place, change.won_k], ...others]);
  }

  $effect(() => () => (build.preview = null));
  const harms = (change: Change) => change.others.filter((other) => other.won_k <= -0.3);
</script>

<h3>Next changes</h3>
{#each asked.faults as fault (fault.what)}<p class="fault">{sentence(fault)}</p>{/each}
{#if asked.answer}
  <p class="text-sm" class:pale={asked.busy}>{asked.answer.sentence}</p>
  <ul class:pale={asked.busy} data-testid="next-changes">
    {#each shown as change (change.label)}
      <li>
        <button
          class="step"
          disabled={!build.editable}
          onpointerenter={() => preview(change)}
          onpointerleave={() => (build.preview = null)}
          onfocus={() => preview(change)}
          onblur={() => (build.preview = null)}
          onclick={() => build.trial.propose(change.label, (draft) => put(draft, change))}
        >
          <span class="row"
            ><span>{change.label}</span><span class="num" class:worse={change.won_k < 0}>{signed(-change.won_k)} K</span
            ></span
          >
          <span class="bar"><span style:width="{Math.max((100 * change.won_k) / most, 0)}%"></span></span>
          <span class="row soft small"
            ><span>{costs(change)}</span><span class="worse"
              >{harms(change)
                .map((other) => `${other.name} ${signed(-other.won_k)}`)
                .join(", ")}</span
            ></span
          >
        </button>
      </li>
    {/each}
  </ul>
  {#if !worth.length}<p class="soft text-sm">No step on its way is worth a tenth of a kelvin.</p>{/if}
  {#if ranked.length > shown.length || all}
    <button class="button mt-1" onclick={() => (all = !all)}>{all ? "The best only" : `All ${ranked.length}`}</button>
  {/if}
  <p class="soft text-sm">
    Pointing at a step shows where the towers would end; Enter looks at it as a trial{stage
      ? "; Esc leaves the one in view"
      : ""}.
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
