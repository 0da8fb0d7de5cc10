<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { originOf, pastedNumbers, valueOf, withValue } from "$lib/document/build";
  import NumberField from "$lib/ui/NumberField.svelte";
  import OriginMark from "$lib/ui/OriginMark.svelte";
  import { fixed, watts } from "$lib/units/format";

  let { build }: { build: BuildState } = $props();
  const workloads = $derived(build.document?.workloads ?? []);
  const sources = $derived(build.document?.parts.filter((p) => p.kind === "source") ?? []);
  const supply = $derived(build.document?.parts.find((p) => p.kind === "supply"));
  const rating = $derived(valueOf(supply?.rating_w as never));
  const sums = $derived(workloads.map((w) => sources.reduce((sum, s) => sum + (valueOf(w.watts[s.id]) ?? 0), 0)));
  const most = $derived(Math.max(rating ?? 0, ...sums, 1));

  function set(workload: string, source: string, value: number) {
    const name = build.sourceNames[source] ?? source;
    build.edit(`${name} in ${workload}: ${value} W`, (draft) => {
      const target = draft.workloads.find((w) => w.id === workload);
      if (target) target.watts[source] = withValue(target.watts[source], value);
    });
  }

  /** A pasted column fills the sources from here down. */
  function paste(event: ClipboardEvent, workload: string, row: number) {
    const numbers = pastedNumbers(event.clipboardData?.getData("text") ?? "");
    if (numbers.length < 2) return;
    event.preventDefault();
    build.edit(`pasted ${numbers.length} watts`, (draft) => {
      const target = draft.workloads.find((w) => w.id === workload);
      numbers.forEach((value, i) => {
        const source = sources[row + i];
        if (target && source && value >= 0) target.watts[source.id] = value;
      });
    });
  }

  function setBurst(workload: string, source: string, key: "power_w" | "hold_s", value: number) {
    build.edit(`burst of ${source}`, (draft) => {
      const target = draft.workloads.find((w) => w.id === workload);
      if (!target) return;
      const old = target.burst?.[source] ?? { power_w: valueOf(target.watts[source]) ?? 0, hold_s: 28 };
      target.burst = { ...target.burst, [source]: { ...old, [key]: value } };
    });
  }
</script>

<div class="flex items-baseline gap-3">
  <h1>Heat</h1>
  <p class="soft">watts of every source in every workload: what it draws for long, not what is written on it</p>
</div>
<div class="panel mt-3 overflow-x-auto">
  <table class="plain">
    <thead>
      <tr>
        <th>Source</th>
        <th>Watts of the</th>
        {#each workloads as workload (workload.id)}<th class:now={workload.id === build.workloadId}
            >{workload.name || workload.id}, W</th
          >{/each}
      </tr>
    </thead>
    <tbody>
      {#each sources as source, row (source.id)}
        <tr>
          <td class="font-semibold">{source.name || source.id}</td>
          <td class="soft">{source.power_kind ?? "package"}</td>
          {#each workloads as workload (workload.id)}
            <td class:now={workload.id === build.workloadId}>
              <NumberField
                label="{source.name || source.id} in {workload.name}"
                hideLabel
                value={valueOf(workload.watts[source.id])}
                low={0}
                high={2000}
                width={74}
                disabled={!build.editable}
                onchange={(v) => set(workload.id, source.id, v)}
                onpaste={(e) => paste(e, workload.id, row)}
              />
              <OriginMark origin={originOf(workload.watts[source.id])} />
            </td>
          {/each}
        </tr>
      {/each}
      <tr>
        <td class="font-semibold">Sum</td>
        <td></td>
        {#each sums as sum, i (workloads[i]?.id)}
          <td class:now={workloads[i]?.id === build.workloadId}>
            <span class="num font-semibold">{watts(sum)}</span>
            <div class="bar">
              <div style:width="{(100 * sum) / most}%"></div>
              {#if rating}<span style:left="{(100 * rating) / most}%" title="supply {rating} W"></span>{/if}
            </div>
          </td>
        {/each}
      </tr>
    </tbody>
  </table>
  <p class="soft mt-2 text-sm">
    Paste a column from a spreadsheet into any cell; it fills the sources below it. Fans and pump add their own watts.
  </p>
</div>
<div class="mt-3 grid grid-cols-2 gap-3">
  <section class="panel">
    <h2>Burst in {build.workload?.name}</h2>
    {#each sources.slice(0, 2) as source (source.id)}
      {@const burst = build.workload?.burst?.[source.id]}
      <p class="mt-1 flex flex-wrap items-baseline gap-3">
        <strong class="w-24">{source.name}</strong>
        <NumberField
          label="burst of {source.name}"
          hideLabel
          unit="W"
          value={burst?.power_w}
          low={0}
          high={2000}
          disabled={!build.editable}
          onchange={(v) => setBurst(build.workloadId, source.id, "power_w", v)}
        />
        for
        <NumberField
          label="hold time of {source.name}"
          hideLabel
          unit="s"
          value={burst?.hold_s}
          low={1}
          high={3600}
          width={64}
          disabled={!build.editable}
          onchange={(v) => setBurst(build.workloadId, source.id, "hold_s", v)}
        />
      </p>
    {/each}
    <p class="soft mt-1 text-sm">Kept in the document; the settled forecast uses the watts above.</p>
  </section>
  <section class="panel">
    <h2>What feeds it</h2>
    {#if supply && rating}
      <p class="mt-1">
        {supply.name}: <span class="num">{watts(rating)}</span> rated,
        <span class="num">{fixed((100 * Math.max(...sums)) / rating, 0)} %</span>
        asked at most.
        <span class="soft">About half load is where efficiency peaks.</span>
      </p>
    {:else}
      <p class="soft">No supply with a rating is in the build.</p>
    {/if}
    <p class="soft mt-1 text-sm">
      A full-length graphics slot gives 75 W, a x4 one 25 W; a fan header about 1 A (common practice).
    </p>
  </section>
</div>

<style>
  .now {
    background: color-mix(in srgb, var(--sunk) 55%, transparent);
  }
  .bar {
    position: relative;
    height: 6px;
    background: var(--sunk);
    border-radius: 3px;
    margin-top: 4px;
  }
  .bar div {
    height: 100%;
    background: var(--soft);
    border-radius: 3px;
  }
  .bar span {
    position: absolute;
    top: -3px;
    width: 2px;
    height: 12px;
    background: var(--too-hot);
  }
</style>
