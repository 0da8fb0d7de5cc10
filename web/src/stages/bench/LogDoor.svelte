<script lang="ts">
  import { uploadLog, type Fault } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import Faults from "$lib/ui/Faults.svelte";

  let {
    build,
    roomStart,
    roomEnd,
    arrived,
  }: { build: BuildState; roomStart?: number; roomEnd?: number; arrived: (id: string) => Promise<void> } = $props();
  let over = $state(false);
  let busy = $state(false);
  let faults = $state.raw<Fault[]>([]);

  async function take(files: FileList | null | undefined) {
    const file = files?.[0];
    if (!file) return;
    busy = true;
    if (!build.revision) faults = await build.keepRevision("first run on the bench");
    const fields: Record<string, string> = {
      workload: build.workloadId,
      name: file.name.replace(/\.(csv|txt|log|gz)+$/i, ""),
    };
    if (roomStart !== undefined) fields.room_start_c = String(roomStart);
    if (roomEnd !== undefined) fields.room_end_c = String(roomEnd);
    const { run, faults: wrong } = await uploadLog(build.id, file, file.name, fields);
    busy = false;
    faults = wrong ?? [];
    if (run) await arrived(run.id);
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
          class="sr-only"
          disabled={!build.editable}
          onchange={(e) => take(e.currentTarget.files)}
        /></label
      >
    </p>
    <p class="soft text-sm">Any text log with a header, gzip or JSON lines, up to 50 MB; the file is kept as it is.</p>
  {/if}
</div>
<Faults {faults} alert />

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
