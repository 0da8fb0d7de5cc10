<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { fixed, signed } from "$lib/units/format";
  import Faults from "$lib/ui/Faults.svelte";

  /** Both solutions beside each other for every part; nothing is changed until it is taken. */
  let { build }: { build: BuildState } = $props();
  const trial = $derived(build.trial);
  const places = $derived(trial.comparison?.places ?? []);
  const most = $derived(Math.max(2, ...places.map((p) => Math.abs(p.difference_k ?? 0))));
  const prices = $derived(build.document?.prices ?? {});
  /** The user's figure of what the change costs, kept with the build whether the trial is taken or left. */
  function price(value: number) {
    const key = trial.priceKey;
    build.edit(`price of ${trial.label}`, (draft) => (draft.prices = { ...prices, [key]: value }));
    trial.price(key, value);
  }
  const intoView = (node: HTMLElement) => node.scrollIntoView({ block: "nearest" });
  const bar = (difference: number | null | undefined) =>
    (Math.min(Math.abs(difference ?? 0) / most, 1) * 50).toFixed(1);
</script>

{#if trial.document}
  <section class="panel trial" aria-label="Trial" data-testid="trial" {@attach intoView}>
    <header>
      <h2>{trial.label}</h2>
      <span class="soft">as it stands / with the change</span>
      <span class="grow"></span>
      {#if trial.priceKey}
        <NumberField
          label="one piece costs"
          value={prices[trial.priceKey]}
          low={0}
          high={1e6}
          width={68}
          disabled={!build.editable}
          onchange={price}
        />
      {/if}
      <button class="button main" disabled={!trial.comparison || !build.editable} onclick={() => trial.take()}
        >Keep change</button
      >
      <button class="button" onclick={() => trial.discard()}>Discard</button>
    </header>
    <Faults faults={trial.faults} alert />
    {#if trial.comparison}
      <table>
        <thead class="sr-only"
          ><tr><th>part</th><th>as it stands</th><th>with the change</th><th>difference</th><th></th></tr></thead
        >
        <tbody>
          {#each places as place (place.address)}
            <tr>
              <th scope="row">{place.name}</th>
              <td class="num">{fixed(place.first_c)} °C</td>
              <td class="num">{fixed(place.second_c)} °C</td>
              <td class="num diff" class:warmer={place.says === "warmer"} class:cooler={place.says === "cooler"}>
                {place.says === "none"
                  ? "none"
                  : place.says === "only in one"
                    ? "–"
                    : `${signed(place.difference_k)} K`}
              </td>
              <td class="bars" aria-hidden="true">
                <span class="zero"></span>
                {#if Math.abs(place.difference_k ?? 0) >= 0.05}
                  <span
                    class="bar"
                    class:warm={(place.difference_k ?? 0) > 0}
                    style:width="{bar(place.difference_k)}%"
                    style:left={(place.difference_k ?? 0) > 0 ? "50%" : `${50 - Number(bar(place.difference_k))}%`}
                  ></span>
                {/if}
              </td>
              <td class="soft note"
                >{place.passes
                  ? `over its ${fixed(place.limit_c, 0)} °C`
                  : place.says === "cannot tell"
                    ? "cannot tell"
                    : ""}</td
              >
            </tr>
          {/each}
          <tr class="sum">
            <th scope="row">Sound</th>
            <td class="num">{fixed(trial.comparison.first_dba)} dBA</td>
            <td class="num">{fixed(trial.comparison.second_dba)} dBA</td>
            <td class="num diff"
              >{Math.abs(trial.comparison.second_dba - trial.comparison.first_dba) < 0.05
                ? "none"
                : `${signed(trial.comparison.second_dba - trial.comparison.first_dba)} dB`}</td
            >
            <td></td><td></td>
          </tr>
        </tbody>
      </table>
      <p class="says"><strong>{trial.comparison.sentence}</strong></p>
    {:else if !trial.faults.length}
      <p class="soft" role="status">Solving both …</p>
    {/if}
  </section>
{/if}

<style>
  .trial {
    border-color: var(--accent);
    margin-top: 12px;
  }
  header {
    display: flex;
    align-items: baseline;
    gap: 10px;
  }
  table {
    width: 100%;
    margin-top: 6px;
  }
  th {
    text-align: left;
    font-weight: 650;
    padding: 3px 8px 3px 0;
    white-space: nowrap;
  }
  td {
    padding: 3px 8px;
    text-align: right;
    white-space: nowrap;
  }
  .diff {
    font-weight: 650;
  }
  .warmer {
    color: var(--too-hot);
  }
  .cooler {
    color: var(--holds);
  }
  .bars {
    position: relative;
    width: 30%;
    height: 20px;
  }
  .zero {
    position: absolute;
    left: 50%;
    top: 2px;
    bottom: 2px;
    border-left: 1px solid var(--soft);
  }
  .bar {
    position: absolute;
    top: 5px;
    bottom: 5px;
    background: var(--holds);
    border-radius: 2px;
  }
  .bar.warm {
    background: var(--too-hot);
  }
  .note {
    text-align: left;
    font-size: 13px;
  }
  .sum th,
  .sum td {
    border-top: 1px solid var(--line);
  }
  .says {
    margin-top: 6px;
  }
</style>
