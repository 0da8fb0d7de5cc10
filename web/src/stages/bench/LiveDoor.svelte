<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Live } from "$lib/state/live.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";

  /** Begin a live run: by a logger on the machine under test, or on the simulated bench. */
  let { build, live, minutes }: { build: BuildState; live: Live; minutes: number } = $props();
  type Fault = Schemas["PracticeIn"]["fault"];
  let fault = $state<Fault>("none");
  let speed = $state(60);
  $effect(() => {
    if (build.id && build.workloadId) void live.choices(build.id, build.workloadId);
  });

  async function ready(): Promise<boolean> {
    await build.flush();
    if (!build.revision) live.faults = await build.keepRevision("first run on the bench");
    return !live.faults.length;
  }
  const told = () => ({
    workload: build.workloadId,
    name: `${build.workload?.name} live`,
    minutes: Math.min(Math.max(minutes, 5), 600),
  });
  async function begin() {
    if (await ready()) await live.begin(build.id, told());
  }
  async function practise() {
    if (!(await ready())) return;
    const name = `${build.workload?.name} on the simulated bench`;
    await live.practise(build.id, { ...told(), name, fault, speed, room_c: build.room });
  }
</script>

{#if live.now && !live.now.ended}
  <p class="soft mt-2">A live run is going on, above. Another one may run beside it.</p>
{/if}
<div class="doors">
  <div>
    <p>Readings come by themselves from a small logger on the machine under test.</p>
    <button class="button main mt-2" disabled={!build.editable || live.busy} onclick={begin}>Connect a logger</button>
  </div>
  <div>
    <p>No machine yet: run this build on the simulated bench.</p>
    <div class="mt-2 flex flex-wrap items-center gap-x-3 gap-y-2">
      <label class="flex items-center gap-2"
        ><span>What goes wrong</span>
        <select class="field" bind:value={fault}>
          <option value="none">Nothing</option>
          <option value="hidden">Find the fault: it is hidden</option>
          {#each live.faultChoices.filter((choice) => choice.kind !== "none") as choice (choice.kind)}
            <option value={choice.kind}>{choice.title}</option>
          {/each}
        </select></label
      >
      <NumberField
        label="Times as fast"
        unit="×"
        value={speed}
        low={1}
        high={600}
        onchange={(v) => (speed = v ?? 60)}
      />
      <button class="button" disabled={!build.editable || live.busy} onclick={practise}>Start the bench</button>
    </div>
  </div>
</div>
<Faults faults={live.faults} alert />

<style>
  .doors {
    display: grid;
    gap: 14px;
    margin-top: 10px;
  }
  @media (min-width: 900px) {
    .doors {
      grid-template-columns: 1fr 2fr;
    }
  }
</style>
