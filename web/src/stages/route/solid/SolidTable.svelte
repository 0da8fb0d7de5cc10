<script lang="ts">
  import type { WorkloadResult } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { celsius, fixed, watts } from "$lib/units/format";

  /** Everything solid that heat leaves from or goes through: sinks, panels, heat pipes. */
  let { build, result }: { build: BuildState; result: WorkloadResult } = $props();
  const words = (stands: string) => stands.replaceAll("_", " ");
</script>

<section class="panel mt-3" aria-label="Sinks, panels and heat pipes">
  <h2>Sinks, panels and heat pipes</h2>
  <table class="plain">
    <thead>
      <tr
        ><th>body</th><th>stands</th><th class="text-right">mean</th><th class="text-right">hottest</th><th
          class="text-right">gives off</th
        ><th>to the touch</th></tr
      >
    </thead>
    <tbody>
      {#each result.bodies as body (body.address)}
        <tr>
          <td
            ><button class="cursor-pointer font-semibold" onclick={() => (build.sheet = body.address)}
              >{body.name}</button
            ></td
          >
          <td class="soft">{words(body.stands)}</td>
          <td class="num text-right">{celsius(body.temperature_c)}</td>
          <td class="num text-right">{celsius(body.hottest_c)}</td>
          <td class="num text-right"
            >{watts(
              body.ways
                .filter((way) => way.side === "outside" || way.side === "stream")
                .reduce((sum, way) => sum + way.watts, 0),
            )}</td
          >
          <td class:fault={body.touch?.says === "too hot"} class:soft={body.touch?.says !== "too hot"}
            >{!body.touch
              ? "not touched"
              : body.touch.limit_c === null
                ? "limit unknown"
                : `${body.touch.says === "holds" ? "holds" : "burns"}, ${fixed(body.touch.limit_c, 0)} °C`}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
  {#each result.pipes as pipe (pipe.address)}
    <button class="pipe" onclick={() => (build.sheet = pipe.address)}>
      <strong>{pipe.name}</strong>
      <span class="meter" aria-hidden="true"
        ><span style:width="{Math.min(100 * pipe.share, 100)}%" class:hot={pipe.share > 0.8}></span></span
      >
      <span class="num">{watts(pipe.busiest_w)} of {watts(pipe.limit_w)}</span>
      <span class:fault={pipe.state === "dried out"} class:soft={pipe.state !== "dried out"}
        >{pipe.count} pipes, the busiest {pipe.state}</span
      >
    </button>
  {/each}
</section>

<style>
  .pipe {
    display: grid;
    grid-template-columns: auto 160px auto 1fr;
    gap: 10px;
    align-items: center;
    width: 100%;
    text-align: left;
    padding: 5px 8px;
    margin-top: 4px;
    cursor: pointer;
    border-radius: 6px;
  }
  .pipe:hover,
  .pipe:focus-visible {
    background: var(--sunk);
  }
  .meter {
    height: 9px;
    border-radius: 4px;
    background: var(--sunk);
    border: 1px solid var(--line);
    overflow: hidden;
  }
  .meter span {
    display: block;
    height: 100%;
    background: var(--holds);
  }
  .meter .hot {
    background: var(--too-hot);
  }
</style>
