<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { setPrice, setStock, type Stock } from "$lib/document/order";
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Marks } from "$lib/state/marks.svelte";
  import Substitutes from "$lib/sheet/Substitutes.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { fixed } from "$lib/units/format";
  import { lateBy, minutesLeft, minutesUsed, spell, STOCK, type Sheet } from "./sheet";

  /** What is in hand, ordered and late; what it costs and weighs, with what is unknown counted. */
  let {
    build,
    sheet,
    marks,
    open = false,
  }: { build: BuildState; sheet: Sheet; marks: Marks; open?: boolean } = $props();
  const today = new Date();
  const late = $derived(sheet.parts.filter((row) => lateBy(row, today) > 0));
  const numberOf = (id: string | null) => sheet.order.steps.find((step) => step.id === id)?.number;
  const used = $derived(minutesUsed(marks.standing));
  const left = $derived(minutesLeft(sheet.order.steps, marks.standing));
  const share = (count: number) => `${(100 * count) / Math.max(sheet.parts.length, 1)}%`;
  let all = $state(false);
  let instead = $state("");
  const partOf = (id: string) =>
    build.document?.parts.find((part) => part.id === id && part.kind !== "source" && part.kind !== "supply");
  const shown = $derived(open || all);

  const stock = (row: Schemas["PartRow"], value: string) =>
    build.edit(`${row.name}: ${value.replace("_", " ") || "nothing said"}`, (draft) =>
      setStock(draft, row.id, (value || null) as Stock | null),
    );
</script>

<section aria-label="Parts">
  <header>
    <h2>Parts</h2>
    <span class="soft"><span class="num">{sheet.parts.length}</span> in all</span>
  </header>
  <div class="bar" aria-hidden="true">
    <span class="hand" style:width={share(sheet.sums.in_hand)}></span>
    <span class="ordered" style:width={share(sheet.sums.ordered)}></span>
    <span class="buy" style:width={share(sheet.sums.to_buy)}></span>
  </div>
  <p>
    <strong class="num">{sheet.sums.in_hand}</strong> in hand
    <strong class="num">{sheet.sums.ordered}</strong> ordered
    <strong class="num">{sheet.sums.to_buy}</strong> to buy
    {#if late.length}<strong class="late num">{late.length} late</strong>{/if}
    {#if sheet.sums.untold}<span class="soft"><span class="num">{sheet.sums.untold}</span> not said</span>{/if}
  </p>
  {#each late as row (row.id)}
    <p class="line">
      <span>{row.name} <span class="soft">step {numberOf(row.step) ?? "–"}</span></span>
      <strong class="late num">late {lateBy(row, today)} d</strong>
    </p>
  {/each}
  <p class="line">
    <span>Money</span><span class="soft"
      >{#if sheet.sums.prices_unknown}{sheet.sums.prices_unknown} unknown{/if}</span
    ><strong class="num">{fixed(sheet.sums.money, 0)}</strong>
  </p>
  <p class="line">
    <span>Mass</span><span class="soft"
      >{#if sheet.sums.masses_unknown}{sheet.sums.masses_unknown} unknown{/if}</span
    ><strong class="num">{fixed(sheet.sums.mass_g / 1000)} kg</strong>
  </p>
  <p class="line">
    <span>Hours</span><span class="soft">used <b class="num">{fixed(used / 60)}</b></span><strong class="num"
      >{fixed(left / 60)} h left</strong
    >
  </p>
  <p class="soft text-sm">
    Planned <b class="num">{fixed(sheet.order.minutes / 60)} h</b> for a practised hand, {spell(
      sheet.order.minutes * sheet.first_time,
    )} the first time; upkeep <b class="num">{fixed(sheet.upkeep_hours_a_year)} h</b> a year.
  </p>
  {#if !open}<button class="link" aria-expanded={all} onclick={() => (all = !all)}
      >{all ? "fewer" : "every part"}</button
    >{/if}
  {#if shown}
    <ul class="list">
      {#each sheet.parts as row (row.id)}
        <li>
          <span class="what"
            ><button class="link plain" onclick={() => (build.sheet = row.id)}>{row.name}</button>
            <span class="soft"
              >{row.of_class || row.kind.replace("_", " ")}{#if row.assumed.length}, <span
                  title={row.assumed.join(", ")}>{row.assumed.length} assumed</span
                >{/if}{#if numberOf(row.step)}, step {numberOf(row.step)}{/if}</span
            ></span
          >
          <select
            class="field"
            aria-label="{row.name} in hand"
            disabled={!build.editable}
            value={row.stock ?? ""}
            onchange={(event) => stock(row, event.currentTarget.value)}
          >
            <option value="">–</option>
            {#each STOCK as [value, words] (value)}<option {value}>{words}</option>{/each}
          </select>
          {#if row.stock === "ordered"}
            <input
              class="field"
              type="date"
              aria-label="{row.name} expected"
              disabled={!build.editable}
              value={row.due_on ?? ""}
              onchange={(event) =>
                build.edit(`${row.name} expected`, (draft) =>
                  setStock(draft, row.id, "ordered", event.currentTarget.value || null),
                )}
            />
          {/if}
          <NumberField
            label="Price of {row.name}"
            hideLabel
            value={row.price ?? undefined}
            unit=""
            low={0}
            high={1e6}
            width={64}
            placeholder="price"
            disabled={!build.editable}
            onchange={(price) => build.edit(`price of ${row.name}`, (draft) => setPrice(draft, row.id, price ?? null))}
          />
          {#if partOf(row.id)}<button
              class="link"
              aria-label="instead of {row.name}"
              aria-expanded={instead === row.id}
              onclick={() => (instead = instead === row.id ? "" : row.id)}>instead</button
            >{/if}
          {#if instead === row.id && partOf(row.id)}<div class="whole">
              <Substitutes {build} part={partOf(row.id)!} />
            </div>{/if}
        </li>
      {/each}
    </ul>
  {/if}
</section>

<style>
  section {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 5px;
  }
  header,
  .line {
    display: flex;
    justify-content: space-between;
    gap: 8px;
    align-items: baseline;
  }
  .bar {
    display: flex;
    gap: 3px;
    height: 10px;
    background: var(--sunk);
    border-radius: 4px;
    overflow: hidden;
  }
  .hand {
    background: var(--ink);
  }
  .ordered {
    border: 1.5px solid var(--ink);
  }
  .buy {
    border: 1.5px dashed var(--soft);
  }
  .late {
    color: var(--tight);
  }
  .list {
    display: grid;
    gap: 4px;
  }
  .list li {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    align-items: center;
    border-top: 1px solid var(--line);
    padding-top: 4px;
    font-size: 14px;
  }
  .what {
    flex: 1 1 140px;
    min-width: 0;
  }
  .whole {
    flex: 1 0 100%;
  }
  .plain {
    text-decoration-thickness: 1px;
  }
  .field {
    font-size: 13px;
    padding: 2px 6px;
  }
  select.field {
    padding-right: 26px;
  }
</style>
