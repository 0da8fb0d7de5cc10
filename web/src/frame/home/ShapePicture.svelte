<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { housingBox, spread, stands, type Stand } from "$lib/drawing/shape";

  /** A start from the side, front to the left, drawn from its own document: walls, mouths, what cools, loop and duct. */
  let {
    picture,
    width = 112,
    height = 70,
  }: { picture: Schemas["Picture"]; width?: number; height?: number } = $props();
  const box = $derived(housingBox(picture, picture.station ? width * 0.78 : width, height, 12));
  const found = $derived(stands(picture, box));
  const middles = $derived(spread(picture.cooled.length, box));
  const board = $derived(box.y + box.height * 0.86);
  const sizes: Record<string, [number, number]> = {
    tower: [13, 0.55],
    low: [16, 0.26],
    card: [22, 0.2],
    stick_on: [13, 0.2],
    duct_sink: [13, 0.36],
    plate: [13, 0.12],
  };
  const deep = (face: string) => found.find((stand) => stand.mouth.sections && stand.mouth.face === face);
  const radiator = $derived(found.find((stand) => stand.mouth.sections));
  const plates = $derived(middles.filter((_, i) => picture.cooled[i] === "plate"));
  const loopEnd = $derived(
    picture.station
      ? { x: width - 14, y: height / 2 }
      : radiator
        ? { x: radiator.x - 5 * radiator.out[0], y: radiator.y - 5 * radiator.out[1] }
        : null,
  );
  const sinkEdge = (face: string) => (["back", "right"].includes(face) ? "right" : face === "top" ? "top" : "left");

  /** An arrow across the wall: into the housing, or out of it. */
  function arrow({ x, y, out, mouth }: Stand): string {
    const sign = mouth.way === "out" ? 1 : -1;
    const [dx, dy] = [out[0] * sign, out[1] * sign];
    const from = mouth.way === "out" ? 3 : 11;
    const [x0, y0] = [x + out[0] * from, y + out[1] * from];
    const [x1, y1] = [x0 + dx * 9, y0 + dy * 9];
    return `M${x0} ${y0}L${x1} ${y1}m${-3 * dx - 2.5 * dy} ${-3 * dy - 2.5 * dx}l${3 * dx + 2.5 * dy} ${3 * dy + 2.5 * dx}l${-3 * dx + 2.5 * dy} ${-3 * dy + 2.5 * dx}`;
  }
</script>

<svg {width} {height} viewBox="0 0 {width} {height}" aria-hidden="true">
  <rect class="wall" class:wood={picture.wood} x={box.x} y={box.y} width={box.width} height={box.height} rx="2" />
  <path class="board" d="M{box.x + box.width * 0.1} {board}h{box.width * 0.8}" />
  {#if picture.duct}
    <path class="line" d="M{box.x + 3} {box.y + box.height * 0.34}h{box.width - 6}" />
  {/if}
  {#if loopEnd && plates.length}
    <path class="tube" d="M{loopEnd.x} {loopEnd.y - 4}H{plates[0]}V{board - 7}" />
    <path class="tube" d="M{plates.at(-1)! + 5} {board - 7}V{loopEnd.y + 4}H{loopEnd.x}" />
  {/if}
  {#each picture.cooled as kind, i (i)}
    {@const x = middles[i]!}
    {#if kind === "sink"}
      <rect class="solid" x={x - 7} y={board - 5} width="14" height="4" rx="1" />
    {:else}
      {@const [wide, share] = sizes[kind]!}
      {@const high = Math.max(share * box.height, 4)}
      {#if kind === "plate"}
        <rect class="solid" x={x - wide / 2} y={board - 6} width={wide + 4} height="5" rx="1" />
      {:else}
        <path class="solid-line" d="M{x - wide / 2} {board - 2}h{wide}" />
        {#each { length: Math.floor(wide / 3) }, n (n)}
          <path class="line" d="M{x - wide / 2 + 1.5 + 3 * n} {board - 3}v{-high}" />
        {/each}
        {#if kind === "card" || kind === "low" || kind === "stick_on"}
          <path class="line" d="M{x - wide / 2} {board - high - 5}h{wide}v-3h{-wide}z" />
        {/if}
      {/if}
    {/if}
  {/each}
  {#each picture.sink_faces as face (face)}
    {#each { length: 9 }, n (n)}
      {@const along = (n + 0.5) / 9}
      {#if sinkEdge(face) === "right"}
        <path class="line" d="M{box.x + box.width} {box.y + along * box.height}h8" />
      {:else if sinkEdge(face) === "top"}
        <path class="line" d="M{box.x + along * box.width} {box.y}v-8" />
      {:else}
        <path class="line" d="M{box.x} {box.y + along * box.height}h-8" />
      {/if}
    {/each}
  {/each}
  {#each found as stand, i (i)}
    {@const upright = stand.out[0] !== 0}
    {@const inward = deep(stand.mouth.face) ? 9 : 5}
    <rect
      class="gap"
      x={stand.x - (upright ? 1.5 : 6)}
      y={stand.y - (upright ? 6 : 1.5)}
      width={upright ? 3 : 12}
      height={upright ? 12 : 3}
    />
    {#if stand.mouth.sections}
      <rect
        class="fins"
        x={upright ? stand.x - (stand.out[0] > 0 ? 9 : 0) : stand.x - 13}
        y={upright ? stand.y - 12 : stand.y - (stand.out[1] > 0 ? 9 : 0)}
        width={upright ? inward : 26}
        height={upright ? 24 : inward}
      />
    {:else if stand.mouth.fan}
      <rect
        class="fan"
        x={upright ? stand.x - (stand.out[0] > 0 ? 5 : 0) : stand.x - 7}
        y={upright ? stand.y - 7 : stand.y - (stand.out[1] > 0 ? 5 : 0)}
        width={upright ? 5 : 14}
        height={upright ? 14 : 5}
      />
    {/if}
    {#if stand.mouth.way !== "either"}<path class={stand.mouth.way} d={arrow(stand)} />{/if}
  {/each}
  {#if picture.station}
    <rect class="fins" x={width - 19} y={height * 0.2} width="9" height={height * 0.6} />
    <rect class="fan" x={width - 9} y={height * 0.28} width="4" height={height * 0.44} />
  {/if}
</svg>

<style>
  .wall {
    fill: var(--panel);
    stroke: var(--ink);
    stroke-width: 1.6;
  }
  .wall.wood {
    stroke: var(--soft);
    stroke-width: 5;
  }
  .board {
    stroke: var(--soft);
    stroke-width: 2.4;
  }
  .line,
  .solid-line {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.3;
  }
  .solid-line {
    stroke-width: 2.6;
  }
  .solid {
    fill: var(--ink);
  }
  .tube {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.6;
  }
  .gap {
    fill: var(--panel);
  }
  .fan {
    fill: var(--panel);
    stroke: var(--ink);
    stroke-width: 1.3;
  }
  .fins {
    fill: var(--hatch);
    stroke: var(--ink);
    stroke-width: 1.3;
  }
  .in,
  .out {
    fill: none;
    stroke-width: 1.7;
    stroke: #54708a;
  }
  .out {
    stroke: #cd7e48;
  }
</style>
