<script lang="ts">
  let { size = 34 }: { size?: number } = $props();
</script>

<svg width={size} height={size} viewBox="0 0 32 32" aria-hidden="true">
  <path
    d="M26 8c-4-4-15-4-17 5-1.500 7 5 11 10 8 4-3 2-8-2-7-3 1-3 4 0 4M9 13l-4-1M9 17l-4 1M11 21l-3 3M15 24l-1 4M19 23l1 4"
    fill="none"
    stroke="var(--accent)"
    stroke-width="2.600"
    stroke-linecap="round"
  />
</svg>
