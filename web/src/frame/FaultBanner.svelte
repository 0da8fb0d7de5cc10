<script lang="ts">
  import type { Fault } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import { addressOf, fieldOf } from "$lib/document/addresses";
  import { ownerOf } from "$lib/document/build";
  import { fieldsOf, modelOf } from "$lib/document/fields";

  /** One thing wrong with the draft, in the words of its part, with a way to it; and what that means for what is in view. */
  let { build, fault, means }: { build: BuildState; fault: Fault; means: string } = $props();
  const address = $derived(addressOf(fault.where));
  const owner = $derived(build.document ? ownerOf(build.document, address.owner) : undefined);
  const name = $derived(String(fieldOf(owner, "name") ?? "") || address.owner);
  const field = $derived(
    owner && build.document ? (fieldsOf(modelOf(build.document, owner))[address.field]?.label ?? address.field) : "",
  );
  const what = $derived(
    owner
      ? `${name}${field ? `, ${field}` : ""}: ${fault.what}`
      : `${fault.where ? `${fault.where}: ` : ""}${fault.what}`,
  );
</script>

<div class="banner" role="alert">
  <span class="grow">{what}{fault.allowed ? `; allowed: ${fault.allowed}` : ""}</span>
  <span class="soft">{means}</span>
  {#if owner}<button class="button whitespace-nowrap" onclick={() => (build.sheet = fault.where)}>Open {name}</button
    >{/if}
</div>
