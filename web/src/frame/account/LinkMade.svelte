<script lang="ts">
  /** A link as it is handed on: told once, never again. */
  let { token, what, done }: { token: string; what: string; done: () => void } = $props();
  let copied = $state(false);
  const address = $derived(`${location.origin}${location.pathname}#/link/${token}`);

  async function copy() {
    await navigator.clipboard.writeText(address);
    copied = true;
  }
</script>

<section class="panel" role="status">
  <p>{what}: good once, for seven days, and not shown again. Krill sends no mail: hand it on yourself.</p>
  <p class="mt-2 flex flex-wrap items-center gap-3">
    <input
      class="field num grow"
      readonly
      value={address}
      aria-label="Link"
      onfocus={(e) => e.currentTarget.select()}
    />
    {#if navigator.clipboard}<button class="button" onclick={copy}>{copied ? "Copied" : "Copy"}</button>{/if}
    <button class="button" onclick={done}>Done</button>
  </p>
</section>
