<script lang="ts">
  import { valueOf, type Figure } from "$lib/document/build";
  import { measured, mayBeMeasured } from "$lib/document/measured";
  import { GROUPS, type Field, type Row } from "$lib/document/fields";
  import LockButton from "./LockButton.svelte";
  import NumberField from "./NumberField.svelte";
  import OriginDot from "./OriginDot.svelte";
  import { kindOf, ORIGIN_WORDS } from "./origins";

  /** Figures of one thing, group by group as the schema says: label, unit, range, origin, tolerance, help. */
  let {
    rows,
    addable = [],
    disabled = false,
    onchange,
    onadd,
    onorigin,
    isLocked,
    onlock,
  }: {
    rows: Row[];
    addable?: Field[];
    disabled?: boolean;
    onchange: (field: Field, figure: Figure | undefined, value: number) => void;
    onadd?: (key: string) => void;
    onorigin?: (field: Field, figure: Figure) => void;
    isLocked?: (field: Field) => boolean;
    onlock?: (field: Field) => void;
  } = $props();
  const NAMES: Record<string, string> = { drive: "drive and power", flow: "flow and pressure" };
  const groups = $derived(
    GROUPS.map((group) => ({ group, own: rows.filter((row) => row.field.group === group) })).filter(
      ({ own }) => own.length,
    ),
  );
  const spread = ({ figure, byClass }: Row) => {
    const found = byClass?.[1] ?? (typeof figure === "object" ? figure?.plus_minus : undefined);
    return typeof found === "object" ? undefined : (found ?? undefined);
  };
  const step = (field: Field, value: number) => (field.whole ? Math.round(value) : value);
</script>

{#each groups as { group, own } (group)}
  {#if groups.length > 1}<h4 class="soft">{NAMES[group] ?? group}</h4>{/if}
  {#each own as row (row.field.key)}
    <div class="row" title={row.field.help || undefined}>
      <span class="label">{row.field.label}</span>
      <NumberField
        label={row.field.label}
        hideLabel
        value={valueOf(row.figure) ?? row.byClass?.[0]}
        unit={row.field.unit}
        low={row.field.low}
        high={row.field.high}
        {disabled}
        width={78}
        onchange={(value) => onchange(row.field, row.figure, step(row.field, value))}
      />
      <span class="more">
        {#if row.field.help}<span class="soft help">{row.field.help}</span>{/if}
        {#if spread(row) !== undefined}<span class="num soft">± {spread(row)}</span>{/if}
        {#if row.byClass || row.figure !== undefined}
          {@const kind = row.byClass ? "class" : kindOf(row.figure)}
          {#if onorigin && !row.field.whole && !disabled && mayBeMeasured(row.figure)}
            <button
              class="origin"
              title={kind === "measured" ? "Measured: a touch takes that back" : "A touch makes it a measured figure"}
              onclick={() => onorigin(row.field, measured(row.figure!, row.field.unit))}
              ><OriginDot {kind} quiet /> {ORIGIN_WORDS[kind]}</button
            >
          {:else}<span class="whitespace-nowrap"><OriginDot {kind} quiet /> {ORIGIN_WORDS[kind]}</span>{/if}
        {/if}
        {#if onlock}
          <LockButton
            locked={isLocked?.(row.field) ?? false}
            name={row.field.label}
            {disabled}
            onclick={() => onlock(row.field)}
          />
        {/if}
      </span>
    </div>
  {/each}
{/each}
{#if onadd && addable.length}
  <label class="mt-2 flex items-baseline gap-2">
    <span class="soft">Add a figure</span>
    <select
      class="field"
      value=""
      {disabled}
      onchange={(e) => {
        if (e.currentTarget.value) onadd(e.currentTarget.value);
        e.currentTarget.value = "";
      }}
    >
      <option value="">…</option>
      {#each addable as field (field.key)}
        <option value={field.key}>{field.label}{field.unit ? `, ${field.unit}` : ""}</option>
      {/each}
    </select>
  </label>
{/if}

<style>
  h4 {
    margin: 10px 0 2px;
    font-size: 12.5px;
    letter-spacing: 0.02em;
  }
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
    align-items: center;
    gap: 8px;
    font-size: 12.5px;
  }
  .help {
    flex: 1;
  }
  .origin {
    cursor: pointer;
    white-space: nowrap;
    border-bottom: 1px dotted var(--soft);
    min-height: 24px;
  }
</style>
