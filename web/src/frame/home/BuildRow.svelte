<script lang="ts">
  import type { BuildCard, BuildsState } from "$lib/state/builds.svelte";
  import { clock, day, fixed, level, signed } from "$lib/units/format";
  import { statusColour } from "$lib/ui/status";
  import StatusMark from "$lib/ui/StatusMark.svelte";
  import Miniature from "./Miniature.svelte";

  /** A build in one line: does it hold, by how much, what is tightest, its last run; and what is done with a whole one. */
  let { builds, build }: { builds: BuildsState; build: BuildCard } = $props();
  const card = $derived(builds.cards[build.id]);
  const run = $derived(builds.runs[build.id]);
  const href = $derived(`#/build/${build.id}/route`);
  const own = $derived(build.role === "owner");
  let menu = $state(false);
  let naming = $state(false);
  let more: HTMLButtonElement | undefined = $state();

  const focus = (node: HTMLElement) => node.focus();

  function done() {
    menu = naming = false;
    more?.focus();
  }

  function rename(event: SubmitEvent) {
    event.preventDefault();
    const name = String(new FormData(event.currentTarget as HTMLFormElement).get("name") ?? "").trim();
    if (name && name !== build.name) void builds.rename(build, name);
    done();
  }

  function onkeydown(event: KeyboardEvent) {
    if (event.key === "Escape") return done();
    const items = [...(event.currentTarget as HTMLElement).querySelectorAll<HTMLElement>("[role=menuitem]")];
    const at = items.indexOf(document.activeElement as HTMLElement);
    const by = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (!by || at < 0) return;
    event.preventDefault();
    items[(at + by + items.length) % items.length]?.focus();
  }
</script>

<tr>
  <td class="mini">
    <a {href} tabindex="-1" aria-hidden="true"
      >{#if card}<Miniature towers={card.towers} width={132} height={36} />{/if}</a
    >
  </td>
  <th scope="row">
    {#if naming}
      <form onsubmit={rename}>
        <input
          class="field w-48"
          name="name"
          aria-label="New name of {build.name}"
          value={build.name}
          maxlength="120"
          onkeydown={(event) => event.key === "Escape" && done()}
          {@attach focus}
        />
        <button class="button">Rename</button>
      </form>
    {:else}
      <a class="name" {href}>{build.name}</a>
    {/if}
    <span class="soft below">{own ? "" : `${build.owner}’s, you are ${build.role}`}</span>
  </th>
  <td class="whitespace-nowrap">
    {#if card}
      <span style:color={statusColour(card.status)} class="status"
        ><StatusMark status={card.status} /> {card.status}</span
      >
    {:else}<span class="soft">…</span>{/if}
  </td>
  <td class="figure">
    {#if card?.margin_k !== undefined && card.margin_k !== null}
      <span class="num big" style:color={statusColour(card.status)}>{signed(card.margin_k)}</span>
      <span class="num soft">± {fixed(card.half_k)} K</span>
    {/if}
  </td>
  <td>
    {#if card?.place}
      {card.place}<span class="soft below">in {card.workload}, room {fixed(card.room_c, 0)} °C</span>
    {:else if card?.missing}
      <a {href}>{card.where}</a><span class="soft below">{card.missing}</span>
    {/if}
  </td>
  <td class="figure wide">
    {#if card?.sound_dba !== undefined && card.sound_dba !== null}
      <span class="num">{level(card.sound_dba)}</span>
      {#if card.ceiling_dba}<span class="soft below">at most {fixed(card.ceiling_dba, 0)} dBA</span>{/if}
    {/if}
  </td>
  <td class="run wide">
    {#if run}
      <a href="#/build/{build.id}/verdict" title={run.sentence}>{run.sentence}</a>
      <span class="soft below">{run.name}, {day(run.created)}</span>
    {:else if run === null}<span class="soft">no run yet</span>{/if}
  </td>
  <td class="wide">
    {build.revisions ? `revision ${build.revisions}` : "draft"}<span class="soft below"
      >{day(build.updated)}, {clock(build.updated)}</span
    >
  </td>
  <td class="more">
    <button
      class="button"
      aria-label="More for {build.name}"
      aria-haspopup="menu"
      aria-expanded={menu}
      bind:this={more}
      onclick={() => (menu = !menu)}>⋯</button
    >
    {#if menu}
      <div class="menu panel" role="menu" tabindex="-1" aria-label="For {build.name}" {onkeydown}>
        <button role="menuitem" {@attach focus} onclick={() => (done(), void builds.copy(build))}>Copy</button>
        {#if build.role !== "reader"}
          <button role="menuitem" onclick={() => ((menu = false), (naming = true))}>Rename</button>
        {/if}
        {#if own}
          <button role="menuitem" onclick={() => (done(), void builds.setArchived(build, !build.archived))}
            >{build.archived ? "Take out of the archive" : "Put in the archive"}</button
          >
          <button role="menuitem" onclick={() => void builds.remove(build)}>Delete</button>
        {/if}
      </div>
    {/if}
  </td>
</tr>

<style>
  td,
  th {
    padding: 7px 8px;
    border-bottom: 1px solid var(--line);
    text-align: left;
    vertical-align: middle;
    font-weight: 400;
  }
  tr:hover {
    background: var(--panel);
  }
  .mini {
    width: 148px;
  }
  .name {
    font-size: 17px;
    font-weight: 700;
    color: var(--ink);
    overflow-wrap: anywhere;
  }
  .below {
    display: block;
    font-size: 13.5px;
  }
  .status {
    display: inline-flex;
    align-items: center;
    gap: 6px;
    font-weight: 650;
  }
  .figure {
    text-align: right;
    white-space: nowrap;
  }
  .big {
    font-size: 19px;
    font-weight: 700;
  }
  .run {
    max-width: 240px;
  }
  .run a {
    display: -webkit-box;
    -webkit-box-orient: vertical;
    -webkit-line-clamp: 2;
    line-clamp: 2;
    overflow: hidden;
    color: var(--ink);
  }
  .more {
    position: relative;
    text-align: right;
  }
  .menu {
    position: absolute;
    right: 8px;
    top: calc(100% - 6px);
    z-index: 5;
    display: grid;
    padding: 4px;
    min-width: 180px;
    text-align: left;
  }
  .menu button {
    padding: 7px 11px;
    text-align: left;
    border-radius: 6px;
    cursor: pointer;
  }
  .menu button:hover,
  .menu button:focus {
    background: var(--sunk);
  }
  @media (max-width: 1020px) {
    .wide {
      display: none;
    }
  }
  @media (max-width: 700px) {
    tr {
      display: grid;
      grid-template-columns: 1fr auto;
      border-bottom: 1px solid var(--line);
      padding: 6px 0;
    }
    td,
    th {
      border: none;
      padding: 2px 6px;
    }
    .mini {
      display: none;
    }
    .more {
      grid-area: 1 / 2;
    }
  }
</style>
