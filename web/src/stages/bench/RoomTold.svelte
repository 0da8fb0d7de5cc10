<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import NumberField from "$lib/ui/NumberField.svelte";
  import type { Rooms } from "./readings";

  /** What is known of the room: read twice, roughly, shared with another run of the evening, or not at all. */
  let { rooms, cards }: { rooms: Rooms; cards: Schemas["RunCard"][] } = $props();
  const HOW = [
    ["read", "read at the intake"],
    ["about", "about"],
    ["evening", "same evening as"],
    ["unknown", "not known"],
  ] as const;
  let how = $state<(typeof HOW)[number][0]>("read");

  function choose(next: typeof how) {
    how = next;
    rooms.start = rooms.end = rooms.about = rooms.evening = undefined;
    if (next === "evening") rooms.evening = cards.at(-1)?.id;
  }
</script>

<label class="flex items-center gap-2"
  ><span>Room</span>
  <select
    class="field"
    aria-label="What is known of the room"
    value={how}
    onchange={(e) => choose(e.currentTarget.value as typeof how)}
  >
    {#each HOW as [id, name] (id)}<option value={id} disabled={id === "evening" && !cards.length}>{name}</option>{/each}
  </select></label
>
{#if how === "read"}
  <NumberField
    label="Room at start"
    unit="°C"
    value={rooms.start}
    low={-30}
    high={60}
    width={64}
    onchange={(v) => (rooms.start = v)}
    onclear={() => (rooms.start = undefined)}
  />
  <NumberField
    label="at end"
    unit="°C"
    value={rooms.end}
    low={-30}
    high={60}
    width={64}
    onchange={(v) => (rooms.end = v)}
    onclear={() => (rooms.end = undefined)}
  />
{:else if how === "about"}
  <NumberField
    label="roughly"
    unit="°C"
    value={rooms.about}
    low={-30}
    high={60}
    width={64}
    onchange={(v) => (rooms.about = v)}
    onclear={() => (rooms.about = undefined)}
  />
{:else if how === "evening"}
  <select class="field" aria-label="Run of the same evening" bind:value={rooms.evening}>
    {#each cards as card (card.id)}<option value={card.id}>{card.name}</option>{/each}
  </select>
{:else}<span class="soft">taken from the readings, best with one of minute 0 before the load</span>{/if}
