<script lang="ts">
  import type { WorkloadResult } from "$lib/api/client";
  import type { ReadyMade } from "$lib/document/ready";
  import { css, heat } from "$lib/drawing/colour";
  import { UNDER } from "$lib/drawing/terraces";
  import { statusColour } from "$lib/ui/status";
  import { fixed } from "$lib/units/format";

  /** One option's towers on the scale that the page shares: the shared terrace below, a place's own kelvins on it. */
  let {
    result,
    ready,
    highest,
    room,
    numbers,
  }: {
    result: WorkloadResult | null;
    ready: ReadyMade | null;
    highest: number;
    room: number;
    /** number of each place in the table below */
    numbers: Record<string, number>;
  } = $props();
  const HEIGHT = 196;
  const TOP = 8;
  const NAMES = 17;
  let width = $state(200);
  type Tower = { address: string; name: string; shared: number; own: number; limit: number | null; status: string };
  const towers: Tower[] = $derived(
    result
      ? result.places.map((place) => {
          const shared = place.hops.filter((h) => UNDER.includes(h.kind)).reduce((sum, h) => sum + h.drop_k, 0);
          return {
            address: place.address,
            name: place.name,
            shared: Math.max(shared, 0),
            own: place.over_room_k - Math.max(shared, 0),
            limit: place.limit_c === null ? null : place.limit_c - result.room_c,
            status: place.status,
          };
        })
      : Object.entries(ready?.over_room_k ?? {}).map(([name, over]) => ({
          address: name,
          name,
          shared: 0,
          own: over,
          limit: null,
          status: "unknown",
        })),
  );
  const step = $derived(width / Math.max(towers.length, 1));
  const y = $derived((kelvins: number) => HEIGHT - NAMES - (kelvins / highest) * (HEIGHT - NAMES - TOP));
  const ticks = $derived([20, 40, 60, 80, 100].filter((k) => k < highest));
</script>

<div bind:clientWidth={width}>
  <svg
    {width}
    height={HEIGHT}
    role="img"
    aria-label="Terraces: {towers.map((t) => `${t.name} ${fixed(t.shared + t.own, 0)} K`).join(', ')}"
  >
    {#each ticks as k (k)}
      <line x1="0" x2={width} y1={y(k)} y2={y(k)} stroke="var(--line)" stroke-dasharray="2 5" />
    {/each}
    {#each towers as tower, i (i)}
      {@const left = i * step + 1.5}
      {@const wide = Math.max(step - 3, 3)}
      <rect
        x={left}
        y={y(tower.shared)}
        width={wide}
        height={Math.max(y(0) - y(tower.shared), 0)}
        fill={css(heat((0.5 * tower.shared) / (tower.limit ?? 70)))}
      />
      <rect
        x={left}
        y={y(tower.shared + tower.own)}
        width={wide}
        height={Math.max(y(tower.shared) - y(tower.shared + tower.own), 1)}
        fill={ready ? "var(--hatch)" : css(heat((tower.shared + tower.own) / (tower.limit ?? 70)))}
      >
        <title>{tower.name}: {fixed(tower.shared + tower.own)} K over the room</title>
      </rect>
      {#if tower.limit !== null}
        <line
          x1={left}
          x2={left + wide}
          y1={y(tower.limit)}
          y2={y(tower.limit)}
          stroke={statusColour(tower.status)}
          stroke-width="2.500"
        />
      {/if}
    {/each}
    <line x1="0" x2={width} y1={y(0)} y2={y(0)} stroke="var(--ink)" stroke-width="2" />
    {#each towers as tower, i (i)}
      <text x={(i + 0.5) * step} y={HEIGHT - 3} text-anchor="middle" class="num">{numbers[tower.address] ?? ""}</text>
    {/each}
    {#each ticks as k (k)}<text x="1" y={y(k) - 2} class="num">{k} K</text>{/each}
    {#if !towers.length}<text x={width / 2} y={HEIGHT / 2} text-anchor="middle"
        >{ready ? "nothing stated in kelvins" : ""}</text
      >{/if}
  </svg>
  <p class="soft text-sm">room {fixed(room, 0)} °C</p>
</div>

<style>
  text {
    font-size: 11.5px;
    fill: var(--ink);
    paint-order: stroke;
    stroke: var(--panel);
    stroke-width: 3px;
  }
</style>
