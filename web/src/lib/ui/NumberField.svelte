<script lang="ts">
  import { fixed, parseNumber } from "$lib/units/format";

  /** A number that is taken as it is typed; what is no number, or out of range, is said and not taken. */
  let {
    label,
    value,
    unit = "",
    low = -Infinity,
    high = Infinity,
    width = 84,
    disabled = false,
    hideLabel = false,
    onchange,
    onpaste,
  }: {
    label: string;
    value: number | undefined;
    unit?: string;
    low?: number;
    high?: number;
    width?: number;
    disabled?: boolean;
    hideLabel?: boolean;
    onchange: (value: number) => void;
    onpaste?: (event: ClipboardEvent) => void;
  } = $props();

  let typed = $state<string | null>(null);
  const shown = $derived(typed ?? (value === undefined ? "" : String(Number(value.toPrecision(6)))));
  const wrong = $derived.by(() => {
    if (typed === null) return "";
    const number = parseNumber(typed);
    if (number === null) return "a number is needed";
    if (number < low || number > high) return `${fixed(low, 0)} to ${fixed(high, 0)} ${unit}`.trim();
    return "";
  });

  function take(event: Event) {
    typed = (event.target as HTMLInputElement).value;
    const number = parseNumber(typed);
    if (number !== null && number >= low && number <= high) onchange(number);
  }
</script>

<label class="inline-flex items-baseline gap-1.5">
  <span class={hideLabel ? "sr-only" : ""}>{label}</span>
  <input
    class="field num text-right"
    class:wrong
    style:width="{width}px"
    inputmode="decimal"
    {disabled}
    value={shown}
    aria-invalid={!!wrong}
    oninput={take}
    onblur={() => (typed = null)}
    {onpaste}
  />
  {#if unit}<span class="soft text-sm">{unit}</span>{/if}
  {#if wrong}<span class="fault" role="alert">{wrong}</span>{/if}
</label>
