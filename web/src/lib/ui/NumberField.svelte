<script lang="ts">
  import { parseNumber } from "$lib/units/format";

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
    bare = false,
    placeholder = "",
    onchange,
    onclear,
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
    /** a cell of a grid: no box until it is in focus */
    bare?: boolean;
    /** what stands there while nothing is typed */
    placeholder?: string;
    onchange: (value: number) => void;
    /** where a figure may be left out: what an emptied field means */
    onclear?: () => void;
    onpaste?: (event: ClipboardEvent) => void;
  } = $props();

  const shownOf = (number: number) => String(Number(number.toPrecision(6)));
  const range = (from: number, to: number) =>
    to === Infinity
      ? `${shownOf(from)} or more`
      : from === -Infinity
        ? `at most ${shownOf(to)}`
        : `${shownOf(from)} to ${shownOf(to)}`;

  let typed = $state<string | null>(null);
  const shown = $derived(typed ?? (value === undefined ? "" : shownOf(value)));
  const still = $derived(value === undefined ? "" : `; still ${shownOf(value)}`);
  const wrong = $derived.by(() => {
    if (typed === null || (onclear && !typed.trim())) return "";
    const number = parseNumber(typed);
    if (number === null) return `a number is needed${still}`;
    if (number < low || number > high) return `${range(low, high)} ${unit}`.trim() + still;
    return "";
  });

  /** Esc leaves the field, and gives up what is wrong; leaving it otherwise keeps that, with why. */
  function onkeydown(event: KeyboardEvent) {
    if (event.key !== "Escape") return;
    typed = null;
    const field = event.target as HTMLElement;
    field.blur();
    field.closest<HTMLElement>("[data-sheet]")?.focus();
    event.stopPropagation();
  }

  function take(event: Event) {
    typed = (event.target as HTMLInputElement).value;
    const number = parseNumber(typed);
    if (number !== null && number >= low && number <= high) onchange(number);
    else if (!typed.trim()) onclear?.();
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
    {placeholder}
    value={shown}
    aria-invalid={!!wrong}
    oninput={take}
    class:bare
    onblur={() => {
      if (!wrong) typed = null;
    }}
    {onkeydown}
    {onpaste}
  />
  {#if unit}<span class="soft text-sm">{unit}</span>{/if}
  {#if wrong}<span class="fault" role="alert">{wrong}</span>{/if}
</label>

<style>
  .bare:not(:focus, .wrong) {
    background: transparent;
    border-color: transparent;
  }
  .bare:hover:not(:focus) {
    border-color: var(--line);
  }
</style>
