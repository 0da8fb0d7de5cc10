<script lang="ts">
  import { beside } from "$lib/state/beside.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import type { BuildDocument } from "$lib/document/build";
  import type { Pick, Result, Studies } from "$lib/state/study.svelte";
  import { statusColour } from "$lib/ui/status";
  import StatusMark from "$lib/ui/StatusMark.svelte";
  import { fixed, level, signed } from "$lib/units/format";
  import { wordsOf } from "./filter";
  import Neighbours from "./Neighbours.svelte";

  /** One candidate part by part, a second one beside it, what the next larger would win; take it over. */
  let {
    build,
    studies,
    result,
    names,
  }: { build: BuildState; studies: Studies; result: Result; names: Record<string, string> } = $props();
  const PICKS: [Pick, string][] = [
    ["smallest", "Smallest"],
    ["quietest", "Quietest"],
    ["coolest", "Coolest"],
    ["cheapest", "Cheapest"],
  ];
  let why = $state("");
  let taken = $state("");
  const detail = $derived(studies.detail);
  const meets = $derived(detail ? result.meets.includes(detail.number) : false);
  /** what is left beyond the margins demanded at the low ends of bands that were drawn for this candidate */
  const low = $derived(detail?.drawn_low_k);
  const priced = $derived(result.columns["price"]?.some((v) => v !== null));
  const rules = $derived(detail?.workloads[0]?.rules);
  const second = $derived(studies.second);
  const other = $derived(
    Object.fromEntries((second?.workloads[0]?.places ?? []).map((place) => [place.address, place.temperature_c])),
  );
  const figure = (name: string, number: number) => result.columns[name]?.[number];

  async function take(event: SubmitEvent) {
    event.preventDefault();
    if (!detail) return;
    if (await studies.take(detail.number, why || wordsOf(studies, detail.number))) {
      taken = `Revision ${build.revision}: it is the draft now.`;
      why = "";
    }
  }

  async function putBeside() {
    if (!detail) return;
    const document = await studies.document(detail.number);
    if (document)
      beside.add(build.id, { label: `Candidate ${detail.number + 1}`, document: document as BuildDocument });
  }

  function trial() {
    if (!detail) return;
    void build.trial.proposeEdits(`candidate ${detail.number + 1}`, detail.edits);
  }
</script>

<section class="panel sticks" aria-label="Candidate in view" data-testid="candidate">
  <p class="flex flex-wrap items-center gap-2">
    {#each PICKS.filter(([pick]) => pick !== "cheapest" || priced) as [pick, name] (pick)}
      {@const number = studies.picked(pick)}
      <button
        class="button"
        class:on={number !== null && number === studies.chosen}
        disabled={number === null}
        onclick={() => number !== null && studies.choose(number)}>{name}</button
      >
    {/each}
  </p>
  {#if detail}
    <h2 class="mt-2">{wordsOf(studies, detail.number)}</h2>
    <p class="figures">
      <span class="num big">{fixed(figure("margin_k", detail.number))} K</span>
      margin,
      <span class="num">{level(figure("level_dba", detail.number))}</span>,
      <span class="num">{fixed(figure("height_mm", detail.number), 0)} mm</span
      >{#if figure("left_mm", detail.number) != null},
        <span class="num">{fixed(figure("left_mm", detail.number))} mm</span> left in its slot{/if}{#if priced}, price
        <span class="num"
          >{figure("price", detail.number) == null ? "unknown" : fixed(figure("price", detail.number), 0)}</span
        >{/if}
      {#if meets && low != null}<span class="soft"
          >{low >= 0
            ? `meets it with its whole band, ${fixed(low)} K to spare`
            : `meets it by its central figures; the hot end of its band misses it by ${fixed(-low)} K`}</span
        >{/if}
      {#if !meets}<span class="fault">does not meet every demand; it comes closest</span>{/if}
    </p>
    {#if detail.why}<p class="soft text-sm">{detail.why}</p>{/if}
    {#if rules?.note}
      <p class="soft text-sm">
        <span class="num">{fixed(rules.watts_per_section, 0)} W</span> per section of 120 mm, coolant
        <span class="num">{fixed(rules.coolant_over_room_k)} K</span> over room. {rules.note}
      </p>
    {/if}
    <Neighbours {studies} {detail} {names} />
    <form class="take" onsubmit={take}>
      <input
        class="field grow"
        aria-label="Why this one"
        maxlength="300"
        placeholder="why this one: {wordsOf(studies, detail.number)}"
        bind:value={why}
      />
      <button class="button main" disabled={!build.editable}>Save as a revision</button>
    </form>
    <p class="mt-1 flex flex-wrap gap-2">
      <button class="button" onclick={trial}>Look at it as a trial</button>
      <button class="button" onclick={putBeside}>Put it side by side</button>
      {#if taken}<strong role="status">{taken}</strong>{/if}
    </p>
    {#each detail.workloads as workload (workload.workload)}
      <table class="plain mt-2">
        <thead>
          <tr
            ><th>{workload.name}, room {fixed(workload.room_c, 0)} °C</th><th class="text-right">this one</th><th
              class="text-right">margin</th
            >{#if second}<th class="text-right">the one beside</th><th class="text-right">difference</th>{/if}</tr
          >
        </thead>
        <tbody>
          {#each workload.places as place (place.address)}
            <tr>
              <td>{place.name}</td>
              <td class="num text-right">{fixed(place.temperature_c)} °C</td>
              <td class="num text-right" style:color={statusColour(place.status)}
                >{signed(place.margin_k, 0)} K <StatusMark status={place.status} size={12} /></td
              >
              {#if second}
                {@const there = second.workloads.find((w) => w.workload === workload.workload)
                  ? other[place.address]
                  : undefined}
                <td class="num text-right">{fixed(there)} °C</td>
                <td class="num text-right"
                  >{there === undefined || Math.abs(there - place.temperature_c) < 1
                    ? "none"
                    : `${signed(there - place.temperature_c)} K`}</td
                >
              {/if}
            </tr>
          {/each}
        </tbody>
      </table>
    {/each}
    {#if second}<p class="soft text-sm">
        Beside it: {wordsOf(studies, second.number)}; {level(figure("level_dba", second.number))}, {fixed(
          figure("height_mm", second.number),
          0,
        )} mm. <button class="button" onclick={() => studies.beside(null)}>Remove from comparison</button>
      </p>{/if}
  {:else}
    <p class="soft mt-2">Nothing in view: no candidate could be solved, or none is chosen yet.</p>
  {/if}
</section>

<style>
  .sticks {
    position: sticky;
    top: -12px;
  }
  .on {
    border-color: var(--accent);
  }
  .figures {
    margin-top: 2px;
  }
  .big {
    font-size: 19px;
    font-weight: 650;
  }
  .take {
    display: flex;
    gap: 8px;
    margin-top: 10px;
  }
</style>
