<script lang="ts" module>
  export type FieldSpec = { key: string; label: string; unit?: string; low: number; high: number; width?: number };
</script>

<script lang="ts">
  import NumberField from "./NumberField.svelte";

  /** Number fields beside each other, one for each figure of an object; an empty one is a figure nobody states. */
  let {
    fields,
    values,
    onchange,
  }: {
    fields: readonly FieldSpec[];
    values: Record<string, unknown>;
    onchange: (key: string, value: number) => void;
  } = $props();
  const number = (value: unknown) => (typeof value === "number" ? value : undefined);
</script>

{#each fields as field (field.key)}
  <NumberField
    label={field.label}
    unit={field.unit ?? ""}
    value={number(values[field.key])}
    low={field.low}
    high={field.high}
    width={field.width ?? 64}
    onchange={(value) => onchange(field.key, value)}
  />
{/each}
