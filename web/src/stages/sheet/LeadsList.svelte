<script lang="ts">
  import { fixed } from "$lib/units/format";
  import type { Step, Sheet } from "./sheet";

  /** Leads in the order in which they go in; those of the step at hand are lit. */
  let { sheet, current }: { sheet: Sheet; current: Step | null } = $props();
  const numberOf = (id: string | null) => sheet.order.steps.find((step) => step.id === id)?.number;
</script>

<section aria-label="Leads">
  <header>
    <h2>Leads</h2>
    <span class="soft"><span class="num">{sheet.leads.length}</span>: mm, plug, step</span>
  </header>
  {#each sheet.leads as lead (lead.lead)}
    <p class="line" class:lit={current?.id === lead.step}>
      <span class="name" title={lead.of_class}>{lead.from_name} → {lead.to_name}</span>
      <span class="num" class:bad={lead.reaches === false}
        >{lead.stated_mm ?? lead.order_mm ?? "?"}{lead.reaches === false ? " short" : ""}</span
      >
      <span class="num soft">{lead.plug.replace("_", " ")}</span>
      <span class="num soft">{numberOf(lead.step) ?? "–"}</span>
    </p>
    {#if lead.sockets.length > 1 || lead.sockets.some((one) => one.spare_mm < 0)}
      <p class="soft text-sm" data-testid="sockets">
        {#each lead.sockets as one, i (one.feed)}{i ? "; " : ""}{one.name}
          {one.spare_mm < 0 ? `is ${fixed(-one.spare_mm, 0)} mm short` : "reaches"}{/each}
      </p>
    {/if}
  {:else}
    <p class="soft">No lead is listed. Leads are drawn in Fit; their lengths follow from where parts stand.</p>
  {/each}
  {#each sheet.joints as joint (joint.loop)}
    <p class="line">
      <span>{joint.name}</span>
      <span class="soft"
        ><b class="num">{joint.tube_m} m</b> tube, <b class="num">{joint.fittings}</b> fittings{#if joint.elbows}
          (<b class="num">{joint.elbows}</b> turned){/if}{#if joint.coupling_pairs}, <b class="num"
            >{joint.coupling_pairs}</b
          >
          couplings{/if}</span
      >
    </p>
    {#each joint.pieces as piece (piece.name)}
      <p class="line">
        <span class="name">{piece.name}</span><span class="soft">cut</span>
        <span class="num">{piece.cut_mm ?? "?"}</span>
      </p>
    {/each}
    {#if joint.coupling_odd}<p class="warn">
        ▲ {joint.name} has an odd coupling: two join to each other for travel.
      </p>{/if}
    <details>
      <summary class="soft">which port is inlet</summary>
      {#each joint.ports as port (port)}<p class="soft text-sm">{port}</p>{/each}
    </details>
  {/each}
</section>

<style>
  section {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 4px;
  }
  header,
  .line {
    display: flex;
    gap: 8px;
    align-items: baseline;
    justify-content: space-between;
  }
  .line {
    border-top: 1px solid var(--line);
    padding-top: 3px;
    font-size: 14px;
  }
  .name {
    flex: 1;
    min-width: 0;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .lit {
    background: color-mix(in srgb, var(--accent) 12%, transparent);
    box-shadow: -6px 0 0 var(--accent);
  }
  .bad,
  .warn {
    color: var(--tight);
  }
  summary {
    cursor: pointer;
    font-size: 13px;
  }
</style>
