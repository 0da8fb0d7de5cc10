<script lang="ts">
  /** Each status has its own shape, so colour is never alone. */
  let { status, size = 15 }: { status: string; size?: number } = $props();
</script>

<svg width={size} height={size} viewBox="0 0 16 16" role="img" aria-label={status} class="inline-block shrink-0">
  {#if status === "holds"}
    <path d="M2 8.500l4 4 8-9" fill="none" stroke="var(--holds)" stroke-width="2.400" />
  {:else if status === "tight"}
    <path d="M8 2l6.500 11.500h-13z" fill="none" stroke="var(--tight)" stroke-width="2" />
  {:else if status === "too hot"}
    <path d="M5 1.500h6l3.500 3.500v6l-3.500 3.500h-6l-3.500-3.500v-6z" fill="var(--too-hot)" />
    <path d="M5.500 5.500l5 5m0-5l-5 5" stroke="var(--panel)" stroke-width="1.800" />
  {:else if status === "throttled"}
    <path d="M1.500 3.500h13" stroke="var(--too-hot)" stroke-width="2" />
    <path d="M4.500 6h7v8.500h-7z" fill="var(--too-hot)" />
  {:else}
    <circle cx="8" cy="8" r="6" fill="none" stroke="var(--soft)" stroke-width="1.800" stroke-dasharray="3 2" />
  {/if}
</svg>
