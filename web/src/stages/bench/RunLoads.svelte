<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Runs } from "$lib/state/runs.svelte";
  import { fixed } from "$lib/units/format";

  /** The loads of one run: which is in view, what ran in it; another load of the same evening is a window more. */
  let { build, runs }: { build: BuildState; runs: Runs } = $props();
  const run = $derived(runs.run!);
  const loads = $derived(run.document.windows);
  const idOf = (load: (typeof loads)[number]) => load.id ?? "load";
  const inView = $derived(loads.find((load) => idOf(load) === runs.window) ?? loads[0]!);
  const workloads = $derived(build.document?.workloads ?? []);

  const change = (next: typeof inView) =>
    runs.change({ windows: loads.map((load) => (load === inView ? next : load)) });

  /** One more load as a window of the run; the times of the one in view are told from then on. */
  function take(start_s: number, end_s: number) {
    const { id: ofRun, analysis } = run;
    const id = `load-${loads.length + 1}`;
    const told = loads.map((load) =>
      load.start_s == null && analysis && load === inView
        ? { ...load, start_s: analysis.window.start_s, end_s: analysis.window.end_s }
        : load,
    );
    const window = { id, workload: inView.workload, start_s, end_s };
    void runs.change({ windows: [...told, window] }).then(() => runs.view(ofRun, id));
  }

  /** The last ten minutes of the one in view, for handles to be moved. */
  function add() {
    const end = run.analysis?.window.end_s ?? 3600;
    take(Math.max(end - 600, 0), end);
  }

  const drop = () => runs.change({ windows: loads.filter((load) => load !== inView) });
</script>

<div class="mt-1 flex flex-wrap items-center gap-x-3 gap-y-1.5" data-testid="loads">
  {#if loads.length > 1}
    <div class="flex flex-wrap gap-1" role="radiogroup" aria-label="Load in view">
      {#each loads as load (idOf(load))}
        <button
          class="button text-sm"
          class:main={load === inView}
          role="radio"
          aria-checked={load === inView}
          onclick={() => runs.view(run.id, idOf(load))}>{load.name || idOf(load)}</button
        >
      {/each}
    </div>
    <input
      class="field w-36"
      aria-label="Name of the load"
      placeholder="name of the load"
      maxlength="200"
      value={inView.name ?? ""}
      disabled={!build.editable}
      onchange={(e) => change({ ...inView, name: e.currentTarget.value })}
    />
  {/if}
  <label class="flex items-center gap-2"
    ><span class="soft">ran</span>
    <select
      class="field"
      value={inView.workload}
      disabled={!build.editable}
      onchange={(e) => change({ ...inView, workload: e.currentTarget.value })}
    >
      {#each workloads as workload (workload.id)}<option value={workload.id}>{workload.name || workload.id}</option
        >{/each}
    </select></label
  >
  {#if run.kind === "log" && build.editable}
    {#each run.more_loads as found (found.start_s)}
      <button class="button text-sm" onclick={() => take(found.start_s, found.end_s)}
        >Also the load from {fixed(found.start_s / 60, 0)} to {fixed(found.end_s / 60, 0)} min</button
      >
    {:else}<button class="button text-sm" onclick={add}>Another load in this log</button>{/each}
    {#if loads.length > 1}<button class="button text-sm" onclick={drop}>Remove this load</button>{/if}
    {#if inView.start_s != null && loads.length === 1}
      <button class="link" onclick={() => change({ ...inView, start_s: null, end_s: null })}>find the load again</button
      >
    {/if}
  {/if}
</div>
