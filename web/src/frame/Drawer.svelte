<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { UNDER } from "$lib/drawing/terraces";
  import { statusColour } from "$lib/ui/status";
  import StatusMark from "$lib/ui/StatusMark.svelte";
  import { celsius, fixed, half, kelvins, sentenceCase } from "$lib/units/format";
  import NextSteps from "./NextSteps.svelte";
  import ThrottleSwitch from "./ThrottleSwitch.svelte";

  /** What limits the part in view: each hop's share of its kelvins. */
  let { build }: { build: BuildState } = $props();
  const address = $derived(build.selected ?? build.result?.tightest);
  const place = $derived(build.result?.places.find((p) => p.address === address) ?? build.result?.places[0]);
  const FEW = 5;
  /** a share of the kelvins below which what is common to all wins little */
  const LITTLE = 0.25;
  let whole = $state(false);
  const ranked = $derived([...(place?.hops ?? [])].sort((a, b) => b.drop_k - a.drop_k));
  const shown = $derived(whole || ranked.length <= FEW + 1 ? ranked : ranked.slice(0, FEW));
  const rest = $derived(ranked.slice(shown.length).reduce((sum, hop) => sum + hop.drop_k, 0));
  const most = $derived(ranked[0]?.drop_k ?? 1);
  const shared = $derived(place?.hops.filter((h) => UNDER.includes(h.kind)).reduce((sum, h) => sum + h.share, 0) ?? 0);
</script>

<aside aria-label="What limits it" class:unsolved={build.unknown}>
  {#if place}
    <p class="soft">What limits</p>
    <label class="sr-only" for="drawer-part">Part in view</label>
    <select
      id="drawer-part"
      class="part"
      value={place.address}
      onchange={(e) => (build.selected = e.currentTarget.value)}
    >
      {#each build.result?.places ?? [] as item (item.address)}
        <option value={item.address}>{item.name}</option>
      {/each}
    </select>
    <p class="figures">
      <StatusMark status={place.status} />
      <strong style:color={statusColour(place.status)}>{place.status}</strong>
      <span class="num">{celsius(place.temperature_c)}</span>
      <span class="soft" class:anew={!build.bandsFresh}>± {fixed(half(place.band_c))} K</span>
    </p>
    <p class="soft text-sm">
      {sentenceCase(place.because)}.
      {#if place.throttled?.clock_share}
        Clock about <span class="num">{fixed(100 * place.throttled.clock_share, 0)}</span> % (by its class's exponent, weak).
      {/if}
      {sentenceCase(place.temperature_kind.replace("_", " "))}{place.limit_c === null
        ? ""
        : `, limit ${celsius(place.limit_c, 0)} (${place.limit_kind})`}.
    </p>
    <ThrottleSwitch {build} place={place.address} />
    <h3>Where its {kelvins(place.over_room_k)} above room come from</h3>
    <ul>
      {#each shown as hop (hop.address)}
        <li>
          <button class="hop" onclick={() => (build.sheet = hop.address)} disabled={hop.kind === "coolant"}>
            <span class="row"><span>{hop.name}</span><span class="num">{fixed(hop.drop_k)} K</span></span>
            <span class="bar"
              ><span style:width="{Math.max((100 * hop.drop_k) / most, 0)}%" class:shared={UNDER.includes(hop.kind)}
              ></span></span
            >
            <span class="row soft small"
              ><span>{hop.origin.replaceAll("_", " ")}</span><span>{fixed(100 * hop.share, 0)} %</span></span
            >
          </button>
        </li>
      {/each}
    </ul>
    {#if shown.length < ranked.length}
      <button class="button" onclick={() => (whole = true)}
        >{ranked.length - shown.length} smaller hops, {kelvins(rest)} together</button
      >
    {/if}
    <p class="text-sm">
      {shared > 0.5
        ? "More than half of its kelvins are shared: what helps there helps every part on that terrace."
        : shared < LITTLE
          ? "Most of its rise is in its own path: more radiator, surface or air wins little here."
          : "Its own path and what it shares with others count about alike."}
    </p>
    <NextSteps {build} place={place.address} />
  {:else}
    <p class="soft">Nothing to show yet.</p>
  {/if}
</aside>

<style>
  aside {
    width: 300px;
    flex-shrink: 0;
    background: var(--panel);
    border-left: 2px solid var(--line);
    padding: 14px 16px;
    overflow-y: auto;
  }
  .part {
    border: none;
    background: transparent;
    font-size: 19px;
    font-weight: 700;
    padding: 0 28px 0 0;
    color: var(--ink);
    max-width: 100%;
  }
  .figures {
    display: flex;
    align-items: center;
    gap: 7px;
    margin: 4px 0;
  }
  h3 {
    margin: 12px 0 6px;
    font-weight: 650;
  }
  .hop {
    display: block;
    width: 100%;
    text-align: left;
    padding: 5px 6px;
    border-radius: 6px;
    cursor: pointer;
  }
  .hop:hover:not(:disabled) {
    background: var(--sunk);
  }
  .hop:disabled {
    cursor: default;
  }
  .row {
    display: flex;
    justify-content: space-between;
    gap: 8px;
    font-weight: 550;
  }
  .small {
    font-size: 12.5px;
    font-weight: 400;
  }
  .bar {
    display: block;
    height: 4px;
    margin: 2px 0;
  }
  .bar span {
    display: block;
    height: 100%;
    border-radius: 2px;
    background: var(--accent);
  }
  .bar .shared {
    background: var(--soft);
  }
</style>
