<script lang="ts">
  import type { WorkloadResult } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import ClosedFaces from "./ClosedFaces.svelte";
  import { faceOf, given, toRoom } from "./model";
  import { celsius, fixed, kelvins, watts } from "$lib/units/format";

  /** A closed housing: the air that stands in it, and what its faces pass on from inside and to the room. */
  let { build, result }: { build: BuildState; result: WorkloadResult } = $props();
  const boxes = $derived(result.zones.filter((zone) => zone.kind === "box"));
  const most = $derived(Math.max(1, ...result.bodies.map(toRoom)));
</script>

<section class="panel mt-3" aria-label="Still air">
  <h2>The housing is closed</h2>
  {#each boxes as zone (zone.address)}
    <p>
      {zone.name}: <span class="num">{celsius(zone.temperature_c)}</span>,
      <span class="num">{kelvins(zone.over_room_k)}</span> over the room; its air only rises and falls by its own warmth.
    </p>
  {/each}
  <div class="sides mt-2">
    {#if build.document}<ClosedFaces {build} {result} />{/if}
    <div>
      <table class="plain mt-2">
        <thead>
          <tr
            ><th>face</th><th>body</th><th class="text-right">from inside</th><th class="text-right">to room</th><th
              class="bars"
            ></th><th class="text-right">film</th></tr
          >
        </thead>
        <tbody>
          {#each result.bodies as body (body.address)}
            {@const outside = toRoom(body)}
            <tr>
              <td class="soft">{(build.document && faceOf(build.document, body.address)) ?? "free"}</td>
              <td
                ><button class="cursor-pointer font-semibold" onclick={() => (build.sheet = body.address)}
                  >{body.name}</button
                ></td
              >
              <td class="num text-right">{watts(-given(body, "inside"))}</td>
              <td class="num text-right">{watts(outside)}</td>
              <td class="bars" aria-hidden="true"><span style:width="{Math.max((100 * outside) / most, 0)}%"></span></td
              >
              <td class="num soft text-right"
                >{fixed(body.ways.find((way) => way.side === "outside")?.film_w_m2k)} W/m²K</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
      <p class="soft mt-2 text-sm">
        Arrows in the faces show the way down. A low and a high opening, each on a path, would let warm air out by
        itself: try it, both ways are solved. Turning the housing turns fins and heat pipes.
      </p>
    </div>
  </div>
</section>

<style>
  .sides {
    display: grid;
    grid-template-columns: minmax(0, 5fr) minmax(0, 6fr);
    gap: 16px;
    align-items: start;
  }
  @media (max-width: 1023px) {
    .sides {
      grid-template-columns: minmax(0, 1fr);
    }
  }
  .bars {
    width: 12%;
  }
  .bars span {
    display: block;
    height: 9px;
    border-radius: 3px;
    background: var(--soft);
  }
</style>
