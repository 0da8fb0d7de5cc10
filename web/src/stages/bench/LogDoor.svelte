<script lang="ts">
  import { faultsOf, uploadLog, uploadRun, type Fault } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import type { Rooms } from "./readings";

  let { build, rooms, arrived }: { build: BuildState; rooms: Rooms; arrived: (id: string) => Promise<void> } = $props();
  let over = $state(false);
  let busy = $state(false);
  let faults = $state.raw<Fault[]>([]);

  /** a log without a clock waits for the time between its rows */
  let waiting = $state.raw<File[]>([]);
  let interval = $state<number | undefined>(undefined);

  async function take(files: Iterable<File> | null | undefined) {
    const given = [...(files ?? [])];
    const runFile = given.length ? await runFileOf(given) : undefined;
    const file = given.find((one) => one !== runFile);
    if (!runFile && !file) return;
    busy = true;
    if (!build.revision) faults = await build.keepRevision("first run on the bench");
    const { data, error } = runFile
      ? await uploadRun(build.id, runFile, file)
      : await uploadLog(build.id, file!, told(file!));
    busy = false;
    faults = data ? [] : faultsOf(error);
    waiting = faults.some((fault) => fault.where === "interval_s") ? given : [];
    if (!data) return;
    interval = undefined;
    await arrived(data.id);
  }

  /** The one among files that is a run of ours; whatever is beside it is its log. */
  async function runFileOf(given: File[]): Promise<File | undefined> {
    for (const file of given)
      if (/\.json$/i.test(file.name) && (await file.slice(0, 200).text()).includes('"krill-run"')) return file;
    return undefined;
  }

  function told(file: File): Record<string, string> {
    const fields: Record<string, string> = {
      workload: build.workloadId,
      name: file.name.replace(/\.(csv|txt|log|gz)+$/i, ""),
    };
    if (rooms.start !== undefined) fields.room_start_c = String(rooms.start);
    if (rooms.end !== undefined) fields.room_end_c = String(rooms.end);
    if (rooms.about !== undefined) fields.about_c = String(rooms.about);
    if (rooms.evening) fields.evening_of = rooms.evening;
    if (interval !== undefined) fields.interval_s = String(interval);
    return fields;
  }
</script>

<div
  class="drop"
  class:over
  role="region"
  aria-label="Drop a log here"
  ondragover={(event) => {
    event.preventDefault();
    over = true;
  }}
  ondragleave={() => (over = false)}
  ondrop={(event) => {
    event.preventDefault();
    over = false;
    void take(event.dataTransfer?.files);
  }}
>
  {#if busy}
    <p role="status">Reading the log …</p>
  {:else}
    <p>
      Drop the log of any logger here, or
      <label class="file"
        >choose a file<input
          type="file"
          multiple
          class="sr-only"
          disabled={!build.editable}
          onchange={(e) => take(e.currentTarget.files)}
        /></label
      >
    </p>
    <p class="soft text-sm">
      Any text log with a header, gzip or JSON lines, up to 50 MB, kept as it is; or a run of Krill's (JSON) with its
      log.
    </p>
  {/if}
</div>
<Faults {faults} alert />
{#if waiting.length}
  <p class="mt-2 flex flex-wrap items-center gap-3">
    <NumberField
      label="Seconds between two rows"
      unit="s"
      value={interval}
      low={0.001}
      high={3600}
      onchange={(v) => (interval = v)}
    />
    <button class="button main" disabled={interval === undefined || busy} onclick={() => take(waiting)}
      >Read {waiting[0]?.name}</button
    >
  </p>
{/if}

<style>
  .drop {
    margin-top: 10px;
    border: 2px dashed var(--line);
    border-radius: 9px;
    padding: 14px;
    text-align: center;
  }
  .over {
    border-color: var(--accent);
    background: var(--sunk);
  }
  .file {
    color: var(--accent-text);
    text-decoration: underline;
    cursor: pointer;
  }
  .file:focus-within {
    outline: 2px solid var(--accent);
  }
</style>
