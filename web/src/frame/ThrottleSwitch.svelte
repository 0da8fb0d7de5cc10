<script lang="ts">
  import { placeOf } from "$lib/document/build";
  import type { BuildState } from "$lib/state/build.svelte";

  /** Whether a place with a throttle limit gives up watts there; nothing where it has no such limit. */
  let { build, place }: { build: BuildState; place: string } = $props();
  const own = $derived(build.document ? placeOf(build.document, place) : undefined);
  const limited = $derived(own?.limits?.some((limit) => limit.kind === "throttle") ?? false);

  function tell(throttles: boolean) {
    build.edit(`${own?.name || place} ${throttles ? "throttles" : "takes all its watts"}`, (draft) => {
      const told = placeOf(draft, place);
      if (told) told.throttles = throttles;
    });
  }
</script>

{#if limited}
  <label
    class="flex items-center gap-1.5 text-sm"
    title="Its source gives up watts where the limit would be passed; sizing still asks for all of them"
    ><input
      type="checkbox"
      checked={own?.throttles ?? false}
      disabled={!build.editable}
      onchange={(event) => tell(event.currentTarget.checked)}
    />
    throttles at its limit</label
  >
{/if}
