<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { fixed } from "$lib/units/format";
  import { inReach, lessBand, marginColour } from "./map";

  /** What the lines and colours of the map mean, and how much of it holds. */
  let {
    answer,
    margin,
    workload,
    ceiling,
    roomVaries,
  }: {
    answer: Schemas["DesignMap"];
    margin: number;
    workload: string;
    ceiling: number | null | undefined;
    roomVaries: boolean;
  } = $props();
  const RAMP = [-40, -20, -1, 0, 10, 20, 30, 40];
  const spare = $derived(answer.spare_k.flat());
  const held = $derived(spare.filter((v) => v !== null && v >= 0).length);
  const surely = $derived(
    lessBand(answer)
      .flat()
      .some((v) => v !== null && v >= 0),
  );
  const here = $derived(answer.axes.every(inReach));
</script>

<p class="text-sm">
  <svg width="30" height="10" aria-hidden="true"><path d="M0 5H30" stroke="var(--ink)" stroke-width="2.600" /></svg>
  <strong
    >{held
      ? held === spare.length
        ? "It holds everywhere here:"
        : "Where the colours are full it holds:"
      : "It holds nowhere here:"}</strong
  >
  <span class="soft"
    >every part keeps {fixed(margin, 0)} K in {workload}{roomVaries ? "" : `, room ${fixed(answer.room_c, 0)} °C`}, by
    its central figures; dotted:</span
  >
  <svg width="30" height="10" aria-hidden="true"
    ><path d="M0 5H30" stroke="var(--ink)" stroke-width="1.800" stroke-dasharray="1.500 3.500" /></svg
  >
  <span class="soft"
    >{surely ? "with the whole 90 % band" : "the whole 90 % band holds nowhere here"}{ceiling == null
      ? ""
      : "; dashed:"}</span
  >
  {#if ceiling != null}
    <svg width="30" height="10" aria-hidden="true"
      ><path d="M0 5H30" stroke="var(--ink)" stroke-width="1.800" stroke-dasharray="6 4" /></svg
    >
    <span class="soft">the ceiling of {fixed(ceiling, 0)} dBA</span>
  {/if}
  <span class="soft">· colours:</span>
  <svg width={RAMP.length * 12} height="10" aria-hidden="true">
    {#each RAMP as left, i (left)}<rect x={i * 12} width="12" height="10" fill={marginColour(left)} />{/each}
  </svg>
  <span class="soft">40 K over to 40 K below the limit</span>
  <span class="soft">· {here ? "the ring is the build as it stands" : "the build as it stands lies outside"}</span>
</p>

<style>
  p svg {
    display: inline-block;
    vertical-align: middle;
  }
</style>
