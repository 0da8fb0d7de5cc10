<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { significant } from "$lib/units/format";

  /** Everything that was read beside temperatures, with what the build as it stands would show. */
  let { quantities }: { quantities: Schemas["QuantityVerdict"][] } = $props();
  const band = (one: Schemas["QuantityVerdict"]) =>
    one.predicted === null
      ? "–"
      : `${significant(one.predicted, 3)} (${significant(one.predicted_low, 3)} to ${significant(one.predicted_high, 3)})`;
</script>

{#if quantities.length}
  <section class="panel mt-3" aria-label="Other quantities">
    <h2>Watts, speeds, flow, sound, scores</h2>
    <div class="overflow-x-auto">
      <table class="plain mt-1">
        <thead
          ><tr
            ><th>What</th><th class="text-right">predicted, as the build stands</th><th class="text-right">read</th><th
              >conclusion</th
            ></tr
          ></thead
        >
        <tbody>
          {#each quantities as one (one.role)}
            <tr>
              <td class="font-semibold">{one.name}</td>
              <td class="num text-right whitespace-nowrap">{band(one)} {one.predicted === null ? "" : one.unit}</td>
              <td class="num text-right whitespace-nowrap"
                >{one.word ?? `${significant(one.measured, 4)} ${one.unit}`}</td
              >
              <td class:off={!["as predicted", "noted"].includes(one.conclusion)}
                >{one.conclusion}{#if one.because}<span class="soft block text-sm">{one.because}</span>{/if}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  </section>
{/if}

<style>
  .off {
    color: var(--too-hot);
  }
</style>
