<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { BODY_KINDS } from "$lib/document/kinds";
  import { addSideWay, BETWEEN, endRoute, insertHop, removeHop } from "$lib/document/ways";
  import type { Hop } from "$lib/document/build";

  /** The ways of a place's heat, hop by hop: put something between, take it out, let it end elsewhere. */
  let { build, place }: { build: BuildState; place: string } = $props();
  const routes = $derived(build.document?.routes.filter((route) => route.place === place) ?? []);
  const nameOf = (id: string | undefined) => build.document?.parts.find((p) => p.id === id)?.name || id || "";
  const title = (hop: Hop) =>
    hop.name ||
    (hop.parts?.length ? hop.parts.map(nameOf).join(", ") : hop.part ? nameOf(hop.part) : `air of ${hop.zone}`);
  const ends = $derived([
    ...(build.document?.parts ?? [])
      .filter((p) => BODY_KINDS.includes(p.kind))
      .map((p) => [`body:${p.id}`, p.name || p.id] as const),
    ...(build.document ? build.document.zones : []).map((z) => [`air:${z.id}`, `air of ${z.name || z.id}`] as const),
  ]);
  const endOf = (hop: Hop) => `${hop.kind}:${hop.part ?? hop.zone}`;
</script>

<h3>The way of its heat</h3>
{#each routes as route, way (route.id)}
  {#if way > 0}<p class="soft text-sm">beside it</p>{/if}
  <ol>
    {#each route.hops as hop, at (hop.id)}
      <li>
        {#if at < route.hops.length - 1}
          <button class="link" onclick={() => (build.sheet = hop.id)}>{title(hop)}</button>
          <button
            class="button small"
            aria-label="Take {title(hop)} out"
            disabled={!build.editable}
            onclick={() => build.edit(`take ${title(hop)} out`, (draft) => removeHop(draft, route.id, hop.id))}
            >out</button
          >
        {:else if ends.some(([value]) => value === endOf(hop))}
          <select
            class="field"
            aria-label="Where it ends"
            value={endOf(hop)}
            disabled={!build.editable}
            onchange={(e) =>
              build.edit(`${place}: ends elsewhere`, (draft) => endRoute(draft, route.id, e.currentTarget.value))}
          >
            {#each ends as [value, name] (value)}<option {value}>{name}</option>{/each}
          </select>
        {:else}<button class="link" onclick={() => (build.sheet = hop.id)}>{title(hop)}</button>{/if}
      </li>
    {/each}
  </ol>
  {#if way === 0}
    <label class="soft"
      >Put before its end
      <select
        class="field"
        value=""
        disabled={!build.editable}
        onchange={(e) => {
          const what = e.currentTarget.value;
          if (what) build.edit(`${place}: ${what}`, (draft) => insertHop(draft, route.id, route.hops.length - 1, what));
          e.currentTarget.value = "";
        }}
      >
        <option value="">…</option>
        {#each Object.keys(BETWEEN) as what (what)}<option value={what}>{what}</option>{/each}
      </select></label
    >
  {/if}
{/each}
{#if routes.length === 1}
  <button
    class="button mt-1"
    disabled={!build.editable}
    onclick={() => build.edit(`${place}: a way beside`, (draft) => addSideWay(draft, place))}
    >Add a way through the board</button
  >
{/if}

<style>
  h3 {
    font-weight: 650;
    margin: 12px 0 2px;
  }
  li {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 8px;
    padding: 2px 0;
    border-bottom: 1px solid var(--line);
  }
  .link {
    text-align: left;
    text-decoration: underline;
    cursor: pointer;
  }
  .small {
    padding: 0 8px;
    font-size: 13px;
  }
</style>
