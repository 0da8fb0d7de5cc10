<script lang="ts">
  import { originOf, valueOf, type Figure } from "$lib/document/build";
  import NumberField from "$lib/ui/NumberField.svelte";
  import OriginMark from "$lib/ui/OriginMark.svelte";
  import { unitOf, words } from "$lib/units/format";

  let {
    field = "",
    label,
    unit,
    value,
    figure,
    byClass,
    low = 0,
    high = 1e7,
    disabled = false,
    onchange,
  }: {
    field?: string;
    label?: string;
    unit?: string;
    value?: number;
    figure?: Figure;
    byClass?: number[];
    low?: number;
    high?: number;
    disabled?: boolean;
    onchange: (value: number) => void;
  } = $props();
  const shown = $derived(value ?? valueOf(figure) ?? byClass?.[0]);
  const spread = $derived(byClass?.[1] ?? (typeof figure === "object" ? figure.plus_minus : undefined));
</script>

<div class="row">
  <span class="label">{label ?? words(field)}</span>
  <NumberField
    label={label ?? words(field)}
    hideLabel
    value={shown}
    unit={unit ?? unitOf(field)}
    {low}
    {high}
    {disabled}
    width={78}
    {onchange}
  />
  <span class="more">
    {#if spread !== undefined && typeof spread !== "object"}<span class="num soft">± {spread}</span>{/if}
    {#if byClass || figure !== undefined}<OriginMark origin={byClass ? "class" : originOf(figure)} />{/if}
  </span>
</div>

<style>
  .row {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 0 8px;
    align-items: center;
    padding: 4px 0;
    border-bottom: 1px solid var(--line);
  }
  .more {
    grid-column: 1 / -1;
    display: flex;
    justify-content: flex-end;
    gap: 8px;
    font-size: 12.5px;
  }
</style>
