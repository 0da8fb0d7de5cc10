<script lang="ts">
  import { sentence, type Fault } from "$lib/api/client";

  /** What is wrong, a sentence per fault; `alert` where it answers something that was just done. */
  let { faults, alert = false }: { faults: readonly Fault[]; alert?: boolean } = $props();
</script>

{#each faults as fault, i (i)}<p class="fault" role={alert ? "alert" : undefined}>{sentence(fault)}</p>{/each}
