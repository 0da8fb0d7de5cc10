<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import type { Live } from "$lib/state/live.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import { celsius, fixed } from "$lib/units/format";
  import LiveChart from "./LiveChart.svelte";
  import { clockOf, lineOf, readCurves, roleOf } from "./live";

  /** A test while it goes on: the one thing to know now, the measured line in its band, what is off, what failed. */
  let { live, editable, kept }: { live: Live; editable: boolean; kept: (run: string | null) => Promise<void> } =
    $props();
  let wanted = $state("");
  let view = $state<HTMLElement>();
  $effect(() => view?.scrollIntoView({ block: "start" }));
  /** a bench that has sent nothing for so long has ended */
  const SILENT_MS = 60_000;
  let silent = $state(false);
  $effect(() => {
    if (live.rows.length) return;
    const timer = setTimeout(() => (silent = true), SILENT_MS);
    return () => clearTimeout(timer);
  });
  let guess = $state<Schemas["GuessIn"]["kind"]>("none");
  const now = $derived(live.now!);
  const watched = $derived(live.watched);
  const loadOn = $derived(watched?.load_on_min ?? (live.rows.at(-1)?.[0] ?? 0) / 60);
  const curves = $derived(readCurves(live.expected, live.channels));
  const chosen = $derived(wanted || watched?.alarms[0]?.address || curves[0]?.address || "");
  const lines = $derived(
    Object.fromEntries(curves.map((curve) => [roleOf(curve), lineOf(live.rows, live.channels, roleOf(curve), loadOn)])),
  );
  const causes = $derived((watched?.findings ?? []).filter((one) => !one.follows));
  const urgent = $derived(
    !watched?.load_ended && ((watched?.alarms ?? []).some((one) => one.stop) || causes.some((one) => one.stop)),
  );
  /** while a fault is to be found nothing names it but what is read */
  const secret = $derived(!!now.practice?.hidden && !now.practice.judged);
  const said = $derived(
    secret
      ? (watched?.alarms[0]?.says ?? "Something may be wrong. Find it: look at temperatures, speeds, flow and watts.")
      : (watched?.sentence ?? ""),
  );
  /** what is read beside temperatures, with what it was soon after the load came on */
  const others = $derived(
    live.channels.flatMap((channel) => {
      if (!/\/(speed|flow|power|clock|level|wall_power|limit)$/.test(channel.role)) return [];
      const points = lineOf(live.rows, live.channels, channel.role, loadOn);
      const last = points.at(-1)?.[1];
      const first = points.find(([minute]) => minute > 1)?.[1];
      return last === undefined ? [] : [{ name: channel.label, unit: channel.unit, last, first }];
    }),
  );
  const off = $derived(secret ? [] : (watched?.off ?? []));
  const settling = $derived(Object.fromEntries((watched?.settling ?? []).map((one) => [one.address, one])));
  const band = (curve: (typeof curves)[number]) => {
    const minutes = live.expected!.minutes;
    const at = minutes.findLastIndex((m) => m <= (watched?.minutes ?? 0));
    if (!curve.low_c || !curve.high_c || at < 0) return "";
    return `${fixed(curve.low_c[at]!, 0)} to ${fixed(curve.high_c[at]!, 0)}`;
  };
</script>

<section class="panel mt-3 scroll-mt-20" data-testid="live" bind:this={view}>
  <div class="head">
    <span class="clock num" title="Since the load came on"
      >{watched?.load_on_min == null ? "–:––" : clockOf(watched.minutes)}</span
    >
    <p class="sentence" class:urgent role={urgent ? "alert" : "status"}>
      {#if live.gone}Krill does not answer; the logger keeps what it reads.
      {:else if watched}{said}
      {:else if now.practice && silent}The bench has sent nothing for a minute. Discard this run and start another one.
      {:else if now.practice}The simulated bench is starting …
      {:else}Waiting for the first reading.{/if}
    </p>
    <div class="flex gap-2">
      <button class="button main" disabled={!editable || live.busy} onclick={async () => kept(await live.end())}
        >{live.busy ? "Keeping …" : "End and keep"}</button
      >
      <button class="button" disabled={!editable} onclick={() => live.discard()}>Discard</button>
    </div>
  </div>
  <p class="soft text-sm">
    {now.name}, revision {now.revision}{#if now.practice}, simulated bench at
      <span class="num">{fixed(now.practice.speed, 0)} ×</span>: {now.practice.title.toLowerCase()}{/if}{#if watched?.room_c != null},
      room <span class="num">{celsius(watched.room_c)}</span>{/if}
  </p>
  {#if live.entrance}
    <div class="entrance">
      <p>On the machine under test (the token is shown this once):</p>
      <code>KRILL_TOKEN={live.entrance.token} krill-log --to {live.entrance.address}</code>
      <p class="soft text-sm">
        Any program may send: the protocol is open (docs/live-protocol.md). Without a network:
        <code>krill-log --csv run.csv</code>, then drop the file here.
      </p>
    </div>
  {:else if !now.practice && !live.rows.length}
    <button class="button mt-2" disabled={!editable} onclick={() => live.newToken()}>Show another token</button>
  {/if}
  {#if now.practice?.hidden}
    <div class="guess">
      {#if now.practice.judged}
        <p><b>{now.practice.judged.says}</b></p>
      {:else}
        <label class="flex items-center gap-2"
          ><span>What is wrong?</span>
          <select class="field" bind:value={guess}>
            {#each live.faultChoices as choice (choice.kind)}<option value={choice.kind}>{choice.title}</option>{/each}
          </select></label
        >
        <button class="button" disabled={!editable} onclick={() => live.guess(guess)}>Say so</button>
      {/if}
    </div>
  {/if}
  {#if (causes.length && !secret) || watched?.alarms.length}
    <ul class="found" aria-label="What failed">
      {#each watched?.alarms ?? [] as alarm (alarm.address)}<li class:bad={alarm.stop}>{alarm.says}</li>{/each}
      {#if !secret}
        {#each watched?.findings ?? [] as one (one.kind + one.on.join())}
          <li class:bad={one.stop} class:soft={one.follows}>
            <span class="num">min {fixed(Math.max(one.since_min, 0), 0)}</span>
            {one.says}
            {one.follows ? "This follows from the above." : ""}
          </li>
        {/each}
      {/if}
    </ul>
  {/if}
  <div class="both">
    <LiveChart
      told={live.expected}
      {curves}
      {lines}
      {chosen}
      minutes={watched?.minutes ?? 0}
      marks={secret ? [] : causes.map((one) => ({ minute: one.since_min, name: one.name || "logger" }))}
    />
    <table>
      <thead>
        <tr><th>Part</th><th class="right">now</th><th class="right">predicted</th><th class="right">settles</th></tr>
      </thead>
      <tbody>
        {#each curves as curve (curve.address)}
          {@const last = lines[roleOf(curve)]?.at(-1)?.[1]}
          {@const beside = off.find((one) => one.address === curve.address)}
          <tr class:own={curve.address === chosen}>
            <th>
              <button aria-pressed={curve.address === chosen} onclick={() => (wanted = curve.address)}
                >{curve.name}</button
              >
            </th>
            <td class="num right" class:bad={curve.limit_c !== null && last !== undefined && last >= curve.limit_c}
              >{last === undefined ? "–" : fixed(last)}</td
            >
            <td class="num right" class:off={beside}>{band(curve)}{beside ? " !" : ""}</td>
            <td class="num right"
              >{settling[curve.address]
                ? `${fixed(settling[curve.address]!.settles_c)} ± ${fixed(settling[curve.address]!.half_k)}`
                : ""}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
  {#if others.length}
    <details class="mt-2" open={secret || undefined}>
      <summary>Speeds, flow, watts</summary>
      <ul class="others">
        {#each others as one (one.name)}
          <li>
            <span>{one.name}</span>
            <span class="num">{fixed(one.last, one.unit === "l/min" ? 2 : 0)} {one.unit}</span>
            {#if one.first !== undefined}<span class="soft num"
                >was {fixed(one.first, one.unit === "l/min" ? 2 : 0)}</span
              >{/if}
          </li>
        {/each}
      </ul>
    </details>
  {/if}
  {#each off as one (one.address)}<p class="off">{one.says}.</p>{/each}
  {#each (watched?.settling ?? []).slice(0, 3) as one (one.address)}
    <p class="soft"><strong>{one.name}</strong> {one.says}.</p>
  {/each}
  <Faults faults={live.faults} alert />
</section>

<style>
  .head {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 8px 16px;
  }
  .clock {
    font-size: 40px;
    font-weight: 700;
    line-height: 1.1;
    min-width: 112px;
  }
  .sentence {
    flex: 1 1 300px;
    font-size: 19px;
    line-height: 1.3;
  }
  .urgent {
    color: var(--too-hot);
    font-weight: 700;
  }
  .entrance,
  .guess {
    margin-top: 8px;
    padding: 8px 12px;
    border-radius: 8px;
    background: var(--sunk);
  }
  .guess {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
  }
  code {
    font-family: var(--font-mono);
    overflow-wrap: anywhere;
    user-select: all;
  }
  .found {
    margin-top: 8px;
    display: grid;
    gap: 2px;
  }
  .found .bad {
    color: var(--too-hot);
    font-weight: 700;
  }
  .both {
    display: grid;
    gap: 12px;
    margin-top: 8px;
  }
  @media (min-width: 1000px) {
    .both {
      grid-template-columns: minmax(0, 1fr) 400px;
    }
  }
  summary {
    cursor: pointer;
  }
  .others {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(310px, 1fr));
    gap: 1px 18px;
    font-size: 14px;
  }
  .others li {
    display: grid;
    grid-template-columns: 1fr auto 82px;
    gap: 8px;
  }
  .others .num {
    white-space: nowrap;
  }
  table {
    font-size: 14px;
    align-self: start;
  }
  th {
    text-align: left;
    font-weight: 400;
  }
  thead th {
    color: var(--soft);
    font-size: 13px;
  }
  .right {
    text-align: right;
    padding-left: 10px;
    white-space: nowrap;
  }
  tr.own button {
    font-weight: 700;
  }
  th button {
    cursor: pointer;
    text-align: left;
    min-height: 24px;
  }
  td.off,
  p.off {
    color: var(--tight);
  }
  td.bad {
    color: var(--too-hot);
    font-weight: 700;
  }
</style>
