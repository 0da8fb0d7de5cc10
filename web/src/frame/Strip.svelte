<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { valueOf } from "$lib/document/build";
  import Mark from "$lib/ui/Mark.svelte";
  import StatusMark from "$lib/ui/StatusMark.svelte";
  import { statusColour } from "$lib/ui/status";
  import { fixed, half, signed } from "$lib/units/format";

  let { build }: { build: BuildState } = $props();
  const sound = $derived(build.unknown ? undefined : build.result?.sound);
  const tightest = $derived(build.result?.places.find((place) => place.address === build.result?.tightest));
  const share = $derived(sound?.ceiling_dba ? Math.min(sound.total_dba / sound.ceiling_dba, 1) : 0);
  const loud = $derived(!!sound?.ceiling_dba && sound.total_dba > sound.ceiling_dba);
  const days = $derived(build.document?.rooms ?? []);
  const day = $derived(days.find((room) => valueOf(room.air_c) === build.room)?.name ?? "");
</script>

<header class="strip">
  <a href="#/" class="name" title="All builds">
    <Mark />
    <span>
      <strong>{build.document?.name ?? "…"}</strong>
      <small>
        {build.revision ? `revision ${build.revision}${build.changed ? ", changed since" : ""}` : "no revision yet"}
      </small>
    </span>
  </a>
  <div class="group">
    <small class="head">Workload</small>
    <div class="flex gap-1" role="radiogroup" aria-label="Workload">
      {#each build.document?.workloads ?? [] as workload (workload.id)}
        <button
          class="pick"
          role="radio"
          aria-checked={workload.id === build.workloadId}
          onclick={() => build.choose(workload.id)}>{workload.name || workload.id}</button
        >
      {/each}
    </div>
  </div>
  <div class="group">
    <small class="head">Room</small>
    <div class="flex items-center gap-1">
      <button class="step" aria-label="Room one kelvin cooler" onclick={() => build.setRoom(build.room - 1)}>−</button>
      <span class="num big" data-testid="room">{fixed(build.room)}</span><span class="soft">°C</span>
      <button class="step" aria-label="Room one kelvin warmer" onclick={() => build.setRoom(build.room + 1)}>+</button>
      {#if days.length > 1}
        <select
          class="days"
          aria-label="Room or day"
          value={day}
          onchange={(event) => {
            const room = days.find((d) => d.name === event.currentTarget.value);
            if (room) build.setRoom(valueOf(room.air_c) ?? null);
          }}
        >
          {#if !day}<option value="">own</option>{/if}
          {#each days as room (room.id)}<option>{room.name}</option>{/each}
        </select>
      {/if}
    </div>
  </div>
  <div class="group">
    <small class="head">Sound{sound ? ` at ${fixed(sound.at_m, 1)} m` : ""}</small>
    <div>
      {#if sound && !sound.sources.length}<strong>silent</strong><span class="soft">, nothing turns</span>
      {:else}
        <span class="num big">{fixed(sound?.total_dba)}</span>
        <span class="soft">{sound?.ceiling_dba ? `of ${fixed(sound.ceiling_dba, 0)} dBA` : "dBA"}</span>
      {/if}
      {#if loud}<StatusMark status="too hot" />{/if}
    </div>
    <div class="bar">
      <div style:width="{100 * share}%" style:background={loud ? "var(--too-hot)" : "var(--tight)"}></div>
    </div>
  </div>
  <div class="group grow">
    <small class="head">Tightest</small>
    {#if tightest}
      <div class="flex items-center gap-1.5 whitespace-nowrap" data-testid="tightest">
        <StatusMark status={tightest.status} />
        <strong class="truncate">{tightest.name}</strong>
        {#if build.unknown}<span class="soft">unknown</span>
        {:else}
          <span class="num big" style:color={statusColour(tightest.status)}>{signed(tightest.margin_k)}</span>
          <span class="soft" class:anew={!build.bandsFresh}>K ± {fixed(half(tightest.band_c))}</span>
        {/if}
      </div>
    {:else}
      <span class="soft">{build.unknown ? "unknown" : "no limit set"}</span>
    {/if}
  </div>
  <div class="group end">
    <small class="head" role="status" data-testid="saved">{build.editable ? build.saved : "read only"}</small>
    <div class="flex gap-1">
      <button
        class="step"
        title={build.undoLabel ? `Undo: ${build.undoLabel} (Ctrl Z)` : "Nothing to undo"}
        aria-label="Undo"
        disabled={!build.undoLabel && build.saved === "saved"}
        onclick={() => build.step("undo")}>↶</button
      >
      <button
        class="step"
        title={build.redoLabel ? `Redo: ${build.redoLabel} (Ctrl Shift Z)` : "Nothing to redo"}
        aria-label="Redo"
        disabled={!build.redoLabel}
        onclick={() => build.step("redo")}>↷</button
      >
    </div>
  </div>
</header>

<style>
  .strip {
    display: flex;
    align-items: center;
    gap: 22px;
    height: 66px;
    padding: 0 16px;
    background: var(--panel);
    border-bottom: 2px solid var(--line);
  }
  .name {
    display: flex;
    gap: 10px;
    align-items: center;
    color: var(--ink);
    width: 172px;
    line-height: 1.2;
  }
  .name strong {
    display: block;
    font-size: 17px;
    max-width: 128px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  small {
    font-size: 12px;
    color: var(--soft);
  }
  .head {
    display: block;
    letter-spacing: 0.04em;
    margin-bottom: 1px;
  }
  .group {
    min-width: 0;
  }
  .end {
    text-align: right;
  }
  .pick {
    background: var(--sunk);
    border-radius: 6px;
    padding: 3px 10px;
    font-weight: 550;
    cursor: pointer;
  }
  .pick[aria-checked="true"] {
    background: var(--ink);
    color: var(--panel);
  }
  .big {
    font-size: 23px;
    font-weight: 600;
    line-height: 1;
  }
  .step {
    width: 26px;
    height: 26px;
    border-radius: 6px;
    background: var(--sunk);
    font-size: 16px;
    line-height: 1;
    cursor: pointer;
  }
  .step:disabled {
    opacity: 0.4;
  }
  .days {
    background: transparent;
    border: none;
    padding: 2px 22px 2px 4px;
    font-size: 13px;
    color: var(--soft);
  }
  .bar {
    height: 4px;
    background: var(--sunk);
    border-radius: 2px;
    margin-top: 3px;
  }
  .bar div {
    height: 100%;
    border-radius: 2px;
  }
</style>
