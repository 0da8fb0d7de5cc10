<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { valueOf, withValue, type BuildDocument } from "$lib/document/build";
  import NumberField from "$lib/ui/NumberField.svelte";

  let { build }: { build: BuildState } = $props();
  const document = $derived(build.document);
  const brief = $derived(document?.brief ?? {});
  const rooms = $derived(document?.rooms ?? []);
  const coolest = $derived(rooms.find((r) => r.id === brief.coolest_room) ?? rooms[0]);
  const hottest = $derived(rooms.find((r) => r.id === brief.hottest_room) ?? rooms[0]);

  type Briefing = NonNullable<BuildDocument["brief"]>;
  const set = (label: string, change: (brief: Briefing, draft: BuildDocument) => void) =>
    build.edit(label, (draft) => {
      draft.brief = draft.brief ?? {};
      change(draft.brief, draft);
    });

  const setRoom = (id: string | undefined, value: number) =>
    build.edit("room", (draft) => {
      const room = draft.rooms.find((r) => r.id === id);
      if (room) room.air_c = withValue(room.air_c, value);
    });

  function setCeiling(id: string, value: number) {
    build.edit("sound ceiling", (draft) => {
      const workload = draft.workloads.find((w) => w.id === id);
      if (workload) workload.sound_ceiling_dba = value;
    });
  }

  function toggleWorst(id: string, on: boolean) {
    set("worst workloads", (b) => {
      const rest = (b.worst_workloads ?? []).filter((w) => w !== id);
      b.worst_workloads = on ? [...rest, id] : rest;
    });
  }
</script>

<h1 class="mb-3">Brief</h1>
{#if document}
  <div class="panel brief">
    <p>
      This build is called
      <input
        class="field w-64"
        aria-label="Name"
        value={document.name}
        maxlength="120"
        disabled={!build.editable}
        onchange={(e) =>
          e.currentTarget.value.trim() && build.edit("name", (d) => (d.name = e.currentTarget.value.trim()))}
      />.
    </p>
    <p>
      It is for
      <input
        class="field grow"
        aria-label="Purpose"
        placeholder="what the machine is for, and what of its housing may change"
        value={brief.purpose ?? ""}
        disabled={!build.editable}
        onchange={(e) => set("purpose", (b) => (b.purpose = e.currentTarget.value))}
      />
    </p>
    <p>
      It stands in a room of
      <NumberField
        label="Room on a common day"
        hideLabel
        unit="°C"
        value={valueOf(rooms[0]?.air_c)}
        low={-20}
        high={60}
        width={64}
        disabled={!build.editable}
        onchange={(v) => setRoom(rooms[0]?.id, v)}
      />
      {#if coolest && coolest !== rooms[0]}on a cool day
        <NumberField
          label="Cool day"
          hideLabel
          unit="°C"
          value={valueOf(coolest.air_c)}
          low={-20}
          high={60}
          width={64}
          disabled={!build.editable}
          onchange={(v) => setRoom(coolest.id, v)}
        />{/if}
      {#if hottest && hottest !== rooms[0]}on a hot day
        <NumberField
          label="Hot day"
          hideLabel
          unit="°C"
          value={valueOf(hottest.air_c)}
          low={-20}
          high={60}
          width={64}
          disabled={!build.editable}
          onchange={(v) => setRoom(hottest.id, v)}
        />{/if}
    </p>
    <p>
      The ear is
      <NumberField
        label="Distance of the ear"
        hideLabel
        unit="m"
        value={brief.listener_m ?? 1}
        low={0.1}
        high={20}
        width={64}
        disabled={!build.editable}
        onchange={(v) => set("listener", (b) => (b.listener_m = v))}
      />
      away, and each part shall keep
      <NumberField
        label="Margin wanted"
        hideLabel
        unit="K"
        value={brief.margin_wanted_k ?? 3}
        low={0}
        high={60}
        width={64}
        disabled={!build.editable}
        onchange={(v) => set("margin wanted", (b) => (b.margin_wanted_k = v))}
      />
      under its limit.
    </p>
    <p>
      A kilowatt-hour costs
      <NumberField
        label="Price of a kilowatt-hour"
        hideLabel
        value={brief.energy_price as number | undefined}
        low={0}
        high={10}
        width={64}
        disabled={!build.editable}
        onchange={(v) => set("energy price", (b) => (b.energy_price = v))}
      />, it runs
      <NumberField
        label="Hours a day"
        hideLabel
        unit="h"
        value={brief.hours_per_day as number | undefined}
        low={0}
        high={24}
        width={64}
        disabled={!build.editable}
        onchange={(v) => set("hours a day", (b) => (b.hours_per_day = v))}
      />
      a day, and
      <NumberField
        label="Hours of work planned"
        hideLabel
        unit="h"
        value={brief.work_hours as number | undefined}
        low={0}
        high={10_000}
        width={64}
        disabled={!build.editable}
        onchange={(v) => set("hours of work", (b) => (b.work_hours = v))}
      />
      of work are planned.
    </p>
    <table class="plain mt-3 max-w-xl">
      <thead><tr><th>Workload</th><th>may be as loud as</th><th>the verdict counts it</th></tr></thead>
      <tbody>
        {#each document.workloads as workload (workload.id)}
          <tr>
            <td>{workload.name || workload.id}</td>
            <td
              ><NumberField
                label="Sound ceiling of {workload.name}"
                hideLabel
                unit="dBA"
                value={workload.sound_ceiling_dba ?? undefined}
                low={0}
                high={120}
                width={64}
                disabled={!build.editable}
                onchange={(v) => setCeiling(workload.id, v)}
              /></td
            >
            <td
              ><input
                type="checkbox"
                aria-label="{workload.name} counts"
                checked={brief.worst_workloads?.includes(workload.id) ?? false}
                disabled={!build.editable}
                onchange={(e) => toggleWorst(workload.id, e.currentTarget.checked)}
              /></td
            >
          </tr>
        {/each}
      </tbody>
    </table>
    <label class="mt-3 grid gap-1">
      Notes
      <textarea
        class="field"
        rows="4"
        disabled={!build.editable}
        value={document.notes ?? ""}
        onchange={(e) => build.edit("notes", (d) => (d.notes = e.currentTarget.value))}></textarea>
    </label>
  </div>
{/if}

<style>
  .brief p {
    display: flex;
    flex-wrap: wrap;
    align-items: baseline;
    gap: 8px;
    margin-bottom: 8px;
    font-size: 16px;
  }
</style>
