<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { rangeOf, sizeOf, swapsOf, type Axis } from "$lib/document/vary";
  import { shelf } from "$lib/state/shelf.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { isDuty } from "$lib/document/addresses";

  /** What may vary: each figure with the values that it may take. */
  let { build, offered, axes = $bindable() }: { build: BuildState; offered: Axis[]; axes: Axis[] } = $props();
  const MOST = 10_000;
  let priced = $state<string | null>(null);
  const more = $derived(offered.filter((axis) => !axes.some((own) => own.address === axis.address)));
  const whole = $derived((address: string) => offered.find((axis) => axis.address === address)?.options ?? []);
  const low = (axis: Axis) => Math.min(...axis.options.map((o) => o.value as number));
  const high = (axis: Axis) => Math.max(...axis.options.map((o) => o.value as number));

  function put(axis: Axis, options: Axis["options"]) {
    axes = axes.map((own) => (own.address === axis.address ? { ...axis, options } : own));
  }

  const range = (axis: Axis, from: number, to: number, count: number) => put(axis, rangeOf(axis, from, to, count));

  const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);
  function toggle(axis: Axis, value: unknown) {
    const all = whole(axis.address);
    const on = axis.options.some((o) => same(o.value, value));
    if (on && axis.options.length === 1) return;
    const kept = all.filter((o) => same(o.value, value) !== axis.options.some((own) => same(own.value, o.value)));
    put(
      axis,
      kept.map((o) => axis.options.find((own) => same(own.value, o.value)) ?? o),
    );
  }

  const price = (axis: Axis, value: unknown, given: number) =>
    put(
      axis,
      axis.options.map((o) => (same(o.value, value) ? { ...o, price: given } : o)),
    );

  const swaps = $derived(
    swapsOf(
      build.document?.parts ?? [],
      shelf.items.filter((item) => item.own),
    ).filter((swap) => !axes.some((axis) => axis.address === swap.address)),
  );
  void shelf.load();

  function add(address: string) {
    const axis = [...more, ...swaps].find((item) => item.address === address);
    if (axis) axes = [...axes, axis];
  }
</script>

<section class="panel" aria-label="What may vary">
  <div class="flex items-baseline gap-3">
    <h2>What may vary</h2>
    <span class="num" class:fault={sizeOf(axes) > MOST}>{sizeOf(axes).toLocaleString("en")} candidates</span>
    {#if sizeOf(axes) > MOST}<span class="fault">up to 10 000: narrow a range</span>{/if}
  </div>
  {#each axes as axis (axis.address)}
    <div class="axis" data-axis={axis.address}>
      <span class="name">{axis.name}</span>
      {#if axis.range}
        {@const scale = isDuty(axis.address) ? 100 : 1}
        {@const unit = isDuty(axis.address) ? "%" : axis.unit}
        <span class="flex flex-wrap gap-2">
          <NumberField
            label="from"
            value={scale * low(axis)}
            low={isDuty(axis.address) ? 0 : 0}
            high={isDuty(axis.address) ? 100 : 1e6}
            width={58}
            onchange={(v) => range(axis, v / scale, high(axis), axis.options.length)}
          />
          <NumberField
            label="to"
            value={scale * high(axis)}
            {unit}
            low={0}
            high={isDuty(axis.address) ? 100 : 1e6}
            width={58}
            onchange={(v) => range(axis, low(axis), v / scale, axis.options.length)}
          />
          <NumberField
            label="in"
            unit="values"
            value={axis.options.length}
            low={1}
            high={200}
            width={48}
            onchange={(v) => range(axis, low(axis), high(axis), Math.round(v))}
          />
        </span>
      {:else}
        <span class="chips">
          {#each whole(axis.address).length ? whole(axis.address) : axis.options as option (JSON.stringify(option.value))}
            <button
              class="chip"
              aria-pressed={axis.options.some((o) => same(o.value, option.value))}
              onclick={() => toggle(axis, option.value)}>{option.label ?? option.value}</button
            >
          {/each}
          <button
            class="quiet"
            aria-expanded={priced === axis.address}
            onclick={() => (priced = priced === axis.address ? null : axis.address)}>prices</button
          >
        </span>
      {/if}
      <button
        class="quiet"
        aria-label="Do not vary {axis.name}"
        onclick={() => (axes = axes.filter((own) => own.address !== axis.address))}>×</button
      >
      {#if priced === axis.address}
        <span class="prices">
          <span class="soft w-full text-sm">One piece, without fans that come along:</span>
          {#each axis.options as option (JSON.stringify(option.value))}
            <NumberField
              label={String(option.label ?? option.value)}
              value={option.price}
              low={0}
              high={1e6}
              width={64}
              onchange={(v) => price(axis, option.value, v)}
            />
          {/each}
        </span>
      {/if}
    </div>
  {/each}
  <label class="mt-2 flex items-center gap-2"
    >Also vary
    <select
      class="field max-w-80"
      value=""
      onchange={(e) => (add(e.currentTarget.value), (e.currentTarget.value = ""))}
    >
      <option value="">choose …</option>
      {#each [...more, ...swaps] as axis (axis.address)}<option value={axis.address}>{axis.name}</option>{/each}
    </select></label
  >
</section>

<style>
  .axis {
    display: grid;
    grid-template-columns: 168px 1fr auto;
    gap: 4px 10px;
    align-items: center;
    padding: 5px 0;
    border-bottom: 1px solid var(--line);
  }
  .name {
    font-weight: 550;
    font-size: 14px;
  }
  .chips {
    display: flex;
    flex-wrap: wrap;
    gap: 4px;
  }
  .chip {
    border: 1px solid var(--line);
    border-radius: 6px;
    padding: 1px 8px;
    font-size: 13.5px;
    color: var(--soft);
    cursor: pointer;
  }
  .chip[aria-pressed="true"] {
    background: var(--sunk);
    border-color: var(--ink);
    color: var(--ink);
    font-weight: 600;
  }
  .quiet {
    color: var(--soft);
    cursor: pointer;
    padding: 0 5px;
    font-size: 13.5px;
    text-decoration: underline;
  }
  .prices {
    grid-column: 2 / -1;
    display: flex;
    flex-wrap: wrap;
    gap: 4px 14px;
    font-size: 13.5px;
  }
</style>
