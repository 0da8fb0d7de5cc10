<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { partsOf, valueOf, type Burst, type Command, type Workload } from "$lib/document/build";
  import { addWorkload, moveIn, removeWorkload } from "$lib/document/workloads";
  import NumberField from "$lib/ui/NumberField.svelte";

  /** All of one workload that is not watts: how long, how loud, which cores, what fans and pumps are told, bursts. */
  let { build, workload }: { build: BuildState; workload: Workload } = $props();
  const CORES = {
    all: "every core driven hard",
    few: "a few cores, as in a game",
    even: "every core alike, no hot spot",
  };
  const movers = $derived([...partsOf(build.document!, "fan"), ...partsOf(build.document!, "pump")]);
  const sources = $derived(partsOf(build.document!, "source"));
  const label = $derived(workload.name || workload.id);
  const told = (id: string): Command => workload.movers?.[id] ?? { duty: 1 };

  function change(what: string, make: (target: Workload) => void) {
    const id = workload.id;
    build.edit(`${label}: ${what}`, (draft) => {
      const target = draft.workloads.find((own) => own.id === id);
      if (target) make(target);
    });
  }
  const tell = (id: string, command: Command) =>
    change("fans and pumps", (target) => (target.movers = { ...target.movers, [id]: command }));

  function setBurst(source: string, key: keyof Burst, value: number | string | null) {
    change("burst", (target) => {
      const old = target.burst?.[source] ?? { power_w: valueOf(target.watts[source]) ?? 0, hold_s: 28 };
      target.burst = { ...target.burst, [source]: { ...old, [key]: value } as Burst };
    });
  }

  /** A curve's own figures of time: what it waits for, how slowly it follows. */
  function setCurve(mover: string, key: "hysteresis_k" | "up_s" | "down_s", value: number) {
    const { curve } = told(mover);
    if (curve) tell(mover, { curve: { ...curve, [key]: value } });
  }
  const OF_CURVE = [
    ["hysteresis_k", "falls once cooler by", "K", 2, 50],
    ["up_s", "up in", "s", 3, 600],
    ["down_s", "down in", "s", 15, 600],
  ] as const;

  function copy() {
    const of = workload.id;
    build.edit(`copy ${label}`, (draft) => (build.sheet = addWorkload(draft, { kind: "copy", of })));
  }

  function remove() {
    const id = workload.id;
    build.edit(`take ${label} out`, (draft) => removeWorkload(draft, id));
    build.sheet = null;
    if (build.workloadId === id) build.choose(build.document!.workloads[0]!.id);
  }
  const move = (by: -1 | 1) => build.edit(`order of ${label}`, (draft) => moveIn(draft.workloads, workload.id, by));
</script>

<div class="grid gap-2">
  <NumberField
    label="Lasts"
    unit="min"
    value={workload.duration_min ?? undefined}
    low={0.1}
    high={100_000}
    width={78}
    disabled={!build.editable}
    onchange={(value) => change("duration", (target) => (target.duration_min = value))}
  />
  <NumberField
    label="No louder than"
    unit="dBA"
    value={workload.sound_ceiling_dba ?? undefined}
    low={0}
    high={120}
    width={64}
    disabled={!build.editable}
    onchange={(value) => change("sound limit", (target) => (target.sound_ceiling_dba = value))}
  />
  <label class="grid gap-1">
    <span class="soft">Kind of load</span>
    <select
      class="field"
      value={workload.cores ?? "all"}
      disabled={!build.editable}
      onchange={(e) => {
        const cores = e.currentTarget.value as keyof typeof CORES;
        change("kind of load", (target) => (target.cores = cores));
      }}
    >
      {#each Object.entries(CORES) as [kind, words] (kind)}<option value={kind}>{words}</option>{/each}
    </select>
  </label>
</div>
{#if movers.length}
  <h3>Fans and pumps</h3>
  <table class="plain">
    <tbody>
      {#each movers as mover (mover.id)}
        {@const command = told(mover.id)}
        <tr>
          <td>{mover.name || mover.id}</td>
          <td class="text-right">
            {#if command.curve}
              <span class="soft">by its curve</span>
              <span class="curve"
                >{#each OF_CURVE as [key, words, unit, usual, high] (key)}<NumberField
                    label="{words} of {mover.name || mover.id}"
                    hideLabel
                    {unit}
                    value={command.curve[key] ?? usual}
                    low={0}
                    {high}
                    width={46}
                    disabled={!build.editable}
                    onchange={(value) => setCurve(mover.id, key, value)}
                  /><span class="soft">{words.split(" ")[0]}</span>{/each}</span
              >
              <button class="link" disabled={!build.editable} onclick={() => tell(mover.id, { duty: 0.6 })}
                >fix it</button
              >
            {:else if command.speed_rpm}
              <span class="num">{valueOf(command.speed_rpm)} rpm</span>
              <button class="link" disabled={!build.editable} onclick={() => tell(mover.id, { duty: 0.6 })}
                >by duty</button
              >
            {:else}
              <NumberField
                label="duty of {mover.name || mover.id}"
                hideLabel
                unit="%"
                value={command.off ? 0 : 100 * (command.duty ?? 1)}
                low={0}
                high={100}
                width={58}
                disabled={!build.editable || !!command.off}
                onchange={(value) => tell(mover.id, { duty: value / 100 })}
              />
            {/if}
          </td>
          <td
            ><label class="whitespace-nowrap"
              ><input
                type="checkbox"
                checked={!!command.off}
                disabled={!build.editable}
                aria-label="{mover.name || mover.id} is off"
                onchange={(e) => tell(mover.id, e.currentTarget.checked ? { off: true } : { duty: 0.6 })}
              /> off</label
            ></td
          >
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
<h3>Bursts</h3>
{#each sources as source (source.id)}
  {@const burst = workload.burst?.[source.id]}
  <p class="flex flex-wrap items-baseline gap-2">
    <span class="grow">{source.name || source.id}</span>
    <NumberField
      label="burst of {source.name || source.id}"
      hideLabel
      unit="W"
      value={burst?.power_w}
      low={0}
      high={2000}
      width={64}
      disabled={!build.editable}
      onchange={(value) => setBurst(source.id, "power_w", value)}
    />
    <NumberField
      label="hold time of {source.name || source.id}"
      hideLabel
      unit="s"
      value={burst?.hold_s}
      low={1}
      high={3600}
      width={56}
      disabled={!build.editable}
      onchange={(value) => setBurst(source.id, "hold_s", value)}
    />
    {#if burst}
      <select
        class="field text-sm"
        aria-label="{source.name || source.id} bursts until"
        value={burst.until ?? "time"}
        disabled={!build.editable}
        onchange={(e) => setBurst(source.id, "until", e.currentTarget.value)}
      >
        <option value="time">then falls</option>
        <option value="mean">mean over that reaches the load's watts</option>
      </select>
      <NumberField
        label="{source.name || source.id} falls over"
        hideLabel
        unit="s fall"
        value={burst.falls_over_s ?? 0}
        low={0}
        high={3600}
        width={50}
        disabled={!build.editable}
        onchange={(value) => setBurst(source.id, "falls_over_s", value || null)}
      />
    {/if}
  </p>
{/each}
<p class="soft text-sm">
  Bursts are followed in Forecast, In time; settled temperatures are those of the watts held for long.
</p>
<div class="mt-3 flex flex-wrap gap-2">
  <button class="button" onclick={copy} disabled={!build.editable}>Copy</button>
  <button class="button" onclick={() => move(-1)} disabled={!build.editable}>Move left</button>
  <button class="button" onclick={() => move(1)} disabled={!build.editable}>Move right</button>
  <button class="button" onclick={remove} disabled={!build.editable || build.document!.workloads.length < 2}
    >Take out</button
  >
</div>

<style>
  h3 {
    margin: 12px 0 4px;
    font-weight: 650;
  }
  .curve {
    display: inline-flex;
    flex-wrap: wrap;
    gap: 2px 6px;
    align-items: baseline;
    font-size: 13px;
  }
  .link {
    color: var(--accent);
    text-decoration: underline;
    cursor: pointer;
  }
</style>
