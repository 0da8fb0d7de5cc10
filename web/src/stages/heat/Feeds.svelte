<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import {
    addFeed,
    changeFeed,
    FEED_CLASSES,
    feedPart,
    mend,
    removeFeed,
    switchesOf,
    type FeedClass,
  } from "$lib/document/feeds";
  import { partsOf } from "$lib/document/build";
  import { Asked } from "$lib/state/asked.svelte";
  import type { BuildState } from "$lib/state/build.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import StatusMark from "$lib/ui/StatusMark.svelte";
  import { fixed, watts } from "$lib/units/format";

  /** Every plug, splitter and supply of the workload in view against what it bears, with the way out where it does not. */
  let { build }: { build: BuildState } = $props();
  const asked = new Asked<Schemas["Feeding"]>();
  const document = $derived(build.document!);
  const supplies = $derived(partsOf(document, "supply"));
  const consumers = $derived(document.parts.filter((part) => ["source", "fan", "pump"].includes(part.kind)));
  let newClass = $state<FeedClass>("fan_plug");
  let newOn = $state("");

  /** the air that supplies breathe, where something was predicted */
  const inlets = $derived.by(() => {
    const box = build.result?.zones.find((zone) => zone.temperature_c !== null)?.temperature_c;
    return box === undefined || box === null ? {} : Object.fromEntries(supplies.map((supply) => [supply.id, box]));
  });
  $effect(() => {
    const workload = build.workload?.id;
    if (!workload) return;
    const body = { document, workload, inlet_c: inlets };
    return asked.ask((as) => client.POST("/api/feeds", { ...as, body }), 120);
  });

  const switches = $derived(switchesOf(document));
  const nameOf = (id: string) => [...document.parts, ...document.feeds].find((one) => one.id === id)?.name || id;
  const STATUS = { ok: "holds", "ok by class figure": "holds", over: "too hot", "start over": "tight", empty: "tight" };
  /** bar: running filled, label as its end, the limit as a tick */
  const share = (load: Schemas["FeedLoad"], amperes: number) => {
    const most = Math.max(load.allowed_a ?? 0, load.start_a, load.label_a, 0.01);
    return `${Math.min(100, (100 * amperes) / most)}%`;
  };
  const onFeeds = (id: string) => document.feeds.filter((feed) => feed.id !== id);
</script>

<section class="panel mt-3" aria-label="Plugs and supplies">
  <div class="flex flex-wrap items-baseline gap-3">
    <h2>What feeds it</h2>
    <p class="soft">
      in {build.workload?.name || build.workload?.id}; labels, starting and bursts against what each bears
    </p>
  </div>
  <Faults faults={asked.faults} />
  {#each asked.answer?.supplies ?? [] as supply (supply.supply)}
    <p class="supply" class:bad={supply.holds === false}>
      <StatusMark status={supply.holds === null ? "unknown" : supply.holds ? "holds" : "too hot"} size={13} />
      <button class="link" onclick={() => (build.sheet = supply.supply)}>{supply.name}</button>
      <span class="num">{watts(supply.sustained_w)}</span>
      {#if supply.good_for_w !== null}of <span class="num">{watts(supply.good_for_w)}</span>
        <span class="num">({fixed((supply.share ?? 0) * 100, 0)} %)</span>{:else}<span class="soft"
          >no rating stated</span
        >{/if}, burst <span class="num">{watts(supply.burst_w)}</span>, spikes
      <span class="num">{watts(supply.peak_w)}</span>;
      <span class="num">{fixed(supply.efficiency * 100, 0)} %</span> of
      <span class="num">{watts(supply.wall_w)}</span> from the wall arrive.
      {#if supply.kwh_a_year !== null}<span class="num">{fixed(supply.kwh_a_year, 0)} kWh</span> a year{#if supply.cost_a_year !== null},
          <span class="num">{fixed(supply.cost_a_year, 0)}</span>{/if}.{:else}<span class="soft"
          >A year's energy wants hours a day in Brief.</span
        >{/if}
      {#if supply.says}<span class:fault={supply.holds === false} class:soft={supply.holds !== false}
          >{supply.says}</span
        >{/if}
    </p>
  {:else}
    <p class="soft">No supply is in the build: what it would lose is not counted.</p>
  {/each}
  {#if asked.answer?.feeds.length}
    <div class="wide">
      <table class="plain">
        <thead
          ><tr
            ><th>plug</th><th>feeds</th><th>A label / start</th><th>W</th><th class="bars"></th><th>left</th><th
            ></th></tr
          ></thead
        >
        <tbody>
          {#each asked.answer.feeds as load (load.feed)}
            <tr data-feed={load.feed}>
              <td title={load.of_class}
                ><strong>{load.name}</strong><br /><span class="soft">on</span>
                <select
                  class="field"
                  aria-label="{load.name} hangs on"
                  disabled={!build.editable}
                  value={load.fed_by ?? ""}
                  onchange={(event) =>
                    build.edit(`${load.name} hangs elsewhere`, (draft) =>
                      changeFeed(draft, load.feed, { fed_by: event.currentTarget.value || null }),
                    )}
                >
                  <option value="">wall</option>
                  {#each supplies as supply (supply.id)}<option value={supply.id}>{supply.name || supply.id}</option
                    >{/each}
                  {#each onFeeds(load.feed) as feed (feed.id)}<option value={feed.id}>{feed.name || feed.id}</option
                    >{/each}
                </select></td
              >
              <td class="soft"
                >{load.consumers.map(nameOf).join(", ") || "nothing"}{#if load.split}<span class="block text-sm"
                    >one lead for all of them: a pull of one is felt by the others</span
                  >{/if}</td
              >
              <td class="num">{fixed(load.label_a, 2)} / {load.start_a ? fixed(load.start_a, 2) : "–"}</td>
              <td class="num">{fixed(load.running_w, load.running_w < 10 ? 1 : 0)}</td>
              <td class="bars"
                ><span class="track"
                  ><span class="running" class:over={load.says === "over"} style:width={share(load, load.label_a)}
                  ></span>
                  {#if load.start_a}<i class="start" style:left={share(load, load.start_a)}></i>{/if}
                  {#if load.labels_allowed_a !== null}<b class="limit" style:left={share(load, load.labels_allowed_a)}
                    ></b>{/if}</span
                ></td
              >
              <td class="num">{load.left_a === null ? "?" : `${fixed(load.left_a, 2)} A`}</td>
              <td class="says">
                <StatusMark status={STATUS[load.says]} size={13} />
                {load.says}{#if load.because}: {load.because}{/if}
                {#if load.drop_v !== null && load.lost_w !== null && load.lost_w > 0.05}<span class="soft"
                    >drops {fixed(load.drop_v, 2)} V, {fixed(load.lost_w, 1)} W in the box</span
                  >{/if}
                {#if load.way_out && build.editable && load.way_out.includes("four-way")}
                  <button
                    class="link"
                    onclick={() => build.edit("a splitter with its own feed", (draft) => mend(draft, load.feed))}
                    >{load.way_out}</button
                  >
                {:else if load.way_out}<span class="soft">{load.way_out}</span>{/if}
                {#if build.editable}<button
                    class="link soft"
                    aria-label="Remove {load.name}"
                    onclick={() => build.edit(`${load.name} gone`, (draft) => removeFeed(draft, load.feed))}
                    >remove</button
                  >{/if}
              </td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  {:else}
    <p class="soft mt-1">
      No plug is listed. A board has one to six fan plugs of about 1 A; a full-length graphics slot gives 75 W, a x4 one
      25 W (common practice).
    </p>
  {/if}
  {#if document.feeds.length}
    <details class="mt-1">
      <summary class="soft">Switches, and what each leaves on</summary>
      {#each switches as one (one.name)}
        <p>
          <b>{one.name}</b> off: {one.stops.join(", ") || "nothing"} stop; {one.staysOn.join(", ") || "nothing"} stay on.
        </p>
      {:else}
        <p class="soft">No plug is switched by anything yet.</p>
      {/each}
      {#each document.feeds as feed (feed.id)}
        <label class="unfed"
          >{feed.name || feed.id}
          <input
            class="field"
            placeholder="switched by"
            maxlength="60"
            disabled={!build.editable}
            value={feed.switched_by ?? ""}
            onchange={(event) =>
              build.edit(`${feed.name || feed.id} is switched`, (draft) =>
                changeFeed(draft, feed.id, { switched_by: event.currentTarget.value.trim() || null }),
              )}
          /></label
        >
      {/each}
    </details>
  {/if}
  {#if asked.answer?.unfed.length}
    <p class="mt-1">
      Hangs on nothing yet:
      {#each asked.answer.unfed as id (id)}
        <label class="unfed"
          >{nameOf(id)}
          <select
            class="field"
            disabled={!build.editable}
            onchange={(event) =>
              build.edit(`${nameOf(id)} is fed`, (draft) => feedPart(draft, id, event.currentTarget.value || null))}
          >
            <option value="">–</option>
            {#each supplies as supply (supply.id)}<option value={supply.id}>{supply.name || supply.id}</option>{/each}
            {#each document.feeds as feed (feed.id)}<option value={feed.id}>{feed.name || feed.id}</option>{/each}
          </select></label
        >
      {/each}
    </p>
  {/if}
  {#if build.editable && consumers.length}
    <form
      class="mt-2 flex flex-wrap items-center gap-2"
      onsubmit={(event) => {
        event.preventDefault();
        build.edit("new plug", (draft) => void addFeed(draft, newClass, newOn || null));
      }}
    >
      <select class="field" aria-label="Kind of plug" bind:value={newClass}>
        {#each FEED_CLASSES as [id, , words] (id)}<option value={id}>{words}</option>{/each}
      </select>
      <span>on</span>
      <select class="field" aria-label="New plug hangs on" bind:value={newOn}>
        <option value="">wall</option>
        {#each supplies as supply (supply.id)}<option value={supply.id}>{supply.name || supply.id}</option>{/each}
        {#each document.feeds as feed (feed.id)}<option value={feed.id}>{feed.name || feed.id}</option>{/each}
      </select>
      <button class="button">+ Plug</button>
    </form>
  {/if}
</section>

<style>
  .supply {
    margin-top: 4px;
  }
  .wide {
    overflow-x: auto;
    margin-top: 6px;
  }
  td,
  th {
    font-size: 14px;
  }
  .bars {
    width: 120px;
    min-width: 90px;
  }
  .track {
    position: relative;
    display: block;
    height: 10px;
    background: var(--sunk);
    border-radius: 3px;
  }
  .running {
    position: absolute;
    inset: 0 auto 0 0;
    background: var(--ink);
    border-radius: 3px;
  }
  .running.over {
    background: var(--too-hot);
  }
  .start {
    position: absolute;
    top: -2px;
    height: 14px;
    border-left: 2px dotted var(--soft);
  }
  .limit {
    position: absolute;
    top: -4px;
    height: 18px;
    border-left: 2px solid var(--accent);
  }
  .field {
    font-size: 13px;
    padding: 2px 26px 2px 6px;
    max-width: 150px;
  }
  .unfed {
    margin-right: 12px;
    white-space: nowrap;
  }
  .says {
    font-size: 13px;
    min-width: 150px;
  }
  td.num {
    white-space: nowrap;
  }
  td .field {
    padding: 0 24px 0 4px;
    max-width: 130px;
  }
</style>
