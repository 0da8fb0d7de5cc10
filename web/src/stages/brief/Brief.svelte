<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { valueOf, withValue, type BuildDocument } from "$lib/document/build";
  import NumberField from "$lib/ui/NumberField.svelte";
  import RoomsPanel from "./RoomsPanel.svelte";

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

{#snippet figure(
  label: string,
  unit: string,
  value: number | null | undefined,
  [low, high]: [number, number],
  onchange: (value: number) => void,
)}
  <NumberField
    {label}
    hideLabel
    {unit}
    value={value ?? undefined}
    {low}
    {high}
    width={64}
    disabled={!build.editable}
    {onchange}
  />
{/snippet}
{#snippet roomOf(label: string, room: (typeof rooms)[number] | undefined)}
  {@render figure(label, "°C", valueOf(room?.air_c), [-20, 60], (v) => setRoom(room?.id, v))}
{/snippet}

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
      It stands in a room of {@render roomOf("Room on a common day", rooms[0])}
      {#if coolest && coolest !== rooms[0]}on a cool day {@render roomOf("Cool day", coolest)}{/if}
      {#if hottest && hottest !== rooms[0]}on a hot day {@render roomOf("Hot day", hottest)}{/if}
    </p>
    <p>
      The listener is {@render figure("Distance of the listener", "m", brief.listener_m ?? 1, [0.1, 20], (v) =>
        set("listener", (b) => (b.listener_m = v)),
      )} away; every part should stay {@render figure("Margin wanted", "K", brief.margin_wanted_k ?? 3, [0, 60], (v) =>
        set("margin wanted", (b) => (b.margin_wanted_k = v)),
      )} below its limit.
    </p>
    <p>
      A kilowatt-hour costs {@render figure("Price per kilowatt-hour", "", brief.energy_price, [0, 10], (v) =>
        set("energy price", (b) => (b.energy_price = v)),
      )}; it runs {@render figure("Hours per day", "h", brief.hours_per_day, [0, 24], (v) =>
        set("hours per day", (b) => (b.hours_per_day = v)),
      )} per day. {@render figure("Hours of work planned", "", brief.work_hours, [0, 10_000], (v) =>
        set("hours of work", (b) => (b.work_hours = v)),
      )} hours of work planned.
    </p>
    <table class="plain mt-3 max-w-xl">
      <thead><tr><th>Workload</th><th>Sound limit</th><th>Counts in the verdict</th></tr></thead>
      <tbody>
        {#each document.workloads as workload (workload.id)}
          <tr>
            <td>{workload.name || workload.id}</td>
            <td
              >{@render figure(`Sound limit of ${workload.name}`, "dBA", workload.sound_ceiling_dba, [0, 120], (v) =>
                setCeiling(workload.id, v),
              )}</td
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
    <RoomsPanel {build} />
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
