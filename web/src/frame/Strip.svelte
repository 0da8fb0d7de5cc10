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
  const workloads = $derived(build.document?.workloads ?? []);
  /** more than so many do not fit beside each other */
  const MANY = 4;
  /** on a phone: whether the rest of the strip is open beneath it */
  let open = $state(false);
  /** Arrows choose the workload beside, as in any group of which one is chosen. */
  function turn(event: KeyboardEvent) {
    const by = ["ArrowRight", "ArrowDown"].includes(event.key)
      ? 1
      : ["ArrowLeft", "ArrowUp"].includes(event.key)
        ? -1
        : 0;
    if (!by) return;
    event.preventDefault();
    build.shift(by);
    const group = (event.currentTarget as HTMLElement).parentElement!;
    requestAnimationFrame(() => group.querySelector<HTMLElement>('[aria-checked="true"]')?.focus());
  }
  const notSaved = $derived(build.editable && build.saved !== "saved" && build.saved !== "saving");
  const day = $derived(days.find((room) => valueOf(room.air_c) === build.room)?.name ?? "");
</script>

<svelte:window onkeydown={(event) => event.key === "Escape" && (open = false)} />
<div class="holder">
  <header class="strip" class:open>
    <a href="#/" class="name" title="All builds: {build.document?.name ?? ''}">
      <Mark />
      <span>
        <strong>{build.document?.name ?? "…"}</strong>
        <small
          >{build.revision ? `revision ${build.revision}${build.changed ? ", draft" : ""}` : "no revision yet"}</small
        >
      </span>
    </a>
    <div class="cell workloads" class:many={workloads.length > MANY}>
      <small class="head">Workload</small>
      <div class="picks" role="radiogroup" aria-label="Workload">
        {#each workloads as workload (workload.id)}
          <button
            class="pick"
            role="radio"
            aria-checked={workload.id === build.workloadId}
            tabindex={workload.id === build.workloadId ? 0 : -1}
            onkeydown={turn}
            onclick={() => build.choose(workload.id)}>{workload.name || workload.id}</button
          >
        {/each}
      </div>
      <select
        class="menu"
        aria-label="Workload in view"
        value={build.workloadId}
        onchange={(event) => build.choose(event.currentTarget.value)}
      >
        {#each workloads as workload (workload.id)}<option value={workload.id}>{workload.name || workload.id}</option
          >{/each}
      </select>
    </div>
    <div class="cell room">
      <small class="head">Room</small>
      <div class="line">
        <button class="step" aria-label="Room one kelvin cooler" onclick={() => build.setRoom(build.room - 1)}>−</button
        >
        <span class="num big" data-testid="room">{fixed(build.room)}</span><span class="soft">°C</span>
        <button class="step" aria-label="Room one kelvin warmer" onclick={() => build.setRoom(build.room + 1)}>+</button
        >
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
    <div class="cell sound">
      <small class="head">Sound{sound ? ` at ${fixed(sound.at_m, 1)} m` : ""}</small>
      <div class="line">
        {#if sound && !sound.sources.length}<strong>silent</strong><span class="soft">nothing turns</span>
        {:else}
          <span class="num big">{fixed(sound?.total_dba)}</span>
          <span class="soft">{sound?.ceiling_dba ? `of ${fixed(sound.ceiling_dba, 0)} dBA` : "dBA"}</span>
        {/if}
        {#if loud}<StatusMark status="too hot" />{/if}
      </div>
      <div class="bar">
        <div style:width="{100 * share}%" style:background={loud ? "var(--too-hot)" : "var(--soft)"}></div>
      </div>
    </div>
    <div class="cell tightest">
      <small class="head">Tightest<span class="in">&nbsp;in {build.workload?.name || build.workloadId}</span></small>
      {#if tightest}
        <div class="line" data-testid="tightest">
          <StatusMark status={tightest.status} />
          <strong class="cut" title={tightest.name}>{tightest.name}</strong>
          {#if build.unknown}<span class="soft">unknown</span>
          {:else}
            <span class="num big" style:color={statusColour(tightest.status)}>{signed(tightest.margin_k)}</span>
            <span class="soft keep" class:anew={!build.bandsFresh}>± {fixed(half(tightest.band_c))} K</span>
          {/if}
        </div>
      {:else}
        <span class="soft">{build.unknown ? "unknown" : "no limit set"}</span>
      {/if}
    </div>
    <div class="cell end" class:always={notSaved}>
      <small class="head" role="status" data-testid="saved">{build.editable ? build.saved : "read only"}</small>
      <div class="line undo">
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
    <button class="more" aria-expanded={open} aria-label="Workload, room and sound" onclick={() => (open = !open)}
      >{open ? "⌃" : "⌄"}</button
    >
  </header>
</div>

<style>
  .holder {
    container-type: inline-size;
    position: relative;
    z-index: 15;
  }
  .strip {
    display: grid;
    grid-template-columns: 172px auto auto auto minmax(0, 1fr) auto;
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
    min-width: 0;
    line-height: 1.2;
  }
  .name strong,
  .name small,
  .cut {
    display: block;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .name > span {
    min-width: 0;
  }
  .name strong {
    font-size: 17px;
  }
  small {
    font-size: 12px;
    color: var(--soft);
  }
  .head {
    display: block;
    letter-spacing: 0.04em;
    margin-bottom: 1px;
    white-space: nowrap;
  }
  .in,
  .more {
    display: none;
  }
  .cell {
    min-width: 0;
  }
  .line {
    display: flex;
    align-items: center;
    gap: 5px;
    white-space: nowrap;
  }
  .picks {
    display: flex;
    gap: 4px;
  }
  .menu,
  .many .picks {
    display: none;
  }
  .many .menu {
    display: block;
  }
  .menu {
    background-color: var(--sunk);
    border: none;
    border-radius: 6px;
    padding: 3px 34px 3px 10px;
    font-weight: 550;
    max-width: 190px;
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
    white-space: nowrap;
    max-width: 130px;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .pick[aria-checked="true"] {
    background: var(--ink);
    color: var(--panel);
  }
  .big {
    font-size: 23px;
    font-weight: 600;
    line-height: 1;
    flex: none;
  }
  .keep {
    flex: none;
  }
  .step {
    width: 26px;
    height: 26px;
    border-radius: 6px;
    background: var(--sunk);
    font-size: 16px;
    line-height: 1;
    cursor: pointer;
    flex: none;
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
    max-width: 130px;
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
  @container (max-width: 1199px) {
    .strip {
      grid-template-columns: minmax(0, 150px) auto auto auto minmax(0, 1fr) auto;
      gap: 18px;
    }
    .picks,
    .bar,
    .days {
      display: none;
    }
    .menu {
      display: block;
    }
  }
  @container (max-width: 799px) {
    .strip {
      grid-template-columns: auto auto auto minmax(0, 1fr) auto;
      gap: 14px;
    }
    .name,
    .room .step,
    .end:not(.always),
    .undo {
      display: none;
    }
  }
  @container (max-width: 559px) {
    .strip {
      grid-template-columns: minmax(0, 1fr) auto auto;
      gap: 4px 12px;
      padding: 0 12px;
    }
    .tightest {
      order: -2;
    }
    .room {
      order: -1;
    }
    .more {
      display: block;
      order: 0;
      width: 32px;
      height: 44px;
      cursor: pointer;
    }
    .in {
      display: inline;
    }
    .workloads,
    .sound {
      display: none;
    }
    .end.always {
      order: -1;
    }
    .open {
      height: auto;
      grid-auto-rows: minmax(58px, auto);
      box-shadow: 0 10px 24px rgb(0 0 0 / 0.16);
    }
    .open .room,
    .open .workloads,
    .open .sound,
    .open .end,
    .open .name {
      display: block;
      order: 1;
      grid-column: 1 / -1;
      text-align: left;
    }
    .open .name,
    .open .undo {
      display: flex;
    }
    .open .room .step {
      display: block;
      width: 40px;
      height: 40px;
    }
    .open .step {
      width: 44px;
      height: 40px;
    }
    .big {
      font-size: 21px;
    }
  }
</style>
