<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { valueOf, withValue, type Room } from "$lib/document/build";
  import { addRoom, inUse, removeRoom } from "$lib/document/rooms";
  import NumberField from "$lib/ui/NumberField.svelte";
  import OriginDot from "$lib/ui/OriginDot.svelte";

  /** Every room that the machine may stand in: its air, how damp, how high above the sea. */
  let { build }: { build: BuildState } = $props();
  const rooms = $derived(build.document!.rooms);
  const brief = $derived(build.document!.brief ?? {});
  const role = (id: string) =>
    id === brief.hottest_room
      ? "hot day"
      : id === brief.coolest_room
        ? "cool day"
        : id === rooms[0]?.id
          ? "common"
          : "";

  function change(id: string, what: string, make: (room: Room) => void) {
    build.edit(`room: ${what}`, (draft) => {
      const room = draft.rooms.find((own) => own.id === id);
      if (room) make(room);
    });
  }

  /** The first room is the common one; of the others one is the hot day and one the cool day. */
  function setRole(id: string, as: string) {
    build.edit("which day a room is", (draft) => {
      const own = (draft.brief = draft.brief ?? {});
      if (own.hottest_room === id) delete own.hottest_room;
      if (own.coolest_room === id) delete own.coolest_room;
      if (as === "hot day") own.hottest_room = id;
      if (as === "cool day") own.coolest_room = id;
    });
  }
</script>

<h2 class="mt-4">Rooms</h2>
<div class="scrolls">
  <table class="plain">
    <thead>
      <tr><th>Name</th><th>Air</th><th>Damp</th><th>Above the sea</th><th>It is the</th><th></th></tr>
    </thead>
    <tbody>
      {#each rooms as room, i (room.id)}
        {@const name = room.name || room.id}
        <tr>
          <td
            ><input
              class="field w-40"
              aria-label="Name of room {i + 1}"
              value={name}
              maxlength="80"
              disabled={!build.editable}
              onchange={(e) => {
                const text = e.currentTarget.value.trim();
                if (text) change(room.id, "name", (own) => (own.name = text));
              }}
            /></td
          >
          <td class="whitespace-nowrap"
            ><NumberField
              label="Air of {name}"
              hideLabel
              unit="°C"
              value={valueOf(room.air_c)}
              low={-40}
              high={70}
              width={64}
              disabled={!build.editable}
              onchange={(value) => change(room.id, `air ${value}`, (own) => (own.air_c = withValue(own.air_c, value)))}
            />
            <OriginDot figure={room.air_c} /></td
          >
          <td class="whitespace-nowrap"
            ><NumberField
              label="Humidity of {name}"
              hideLabel
              unit="%"
              value={100 * (valueOf(room.humidity_share) ?? 0.5)}
              low={0}
              high={100}
              width={56}
              disabled={!build.editable}
              onchange={(value) => change(room.id, `humidity ${value}`, (own) => (own.humidity_share = value / 100))}
            />
            <OriginDot figure={room.humidity_share} /></td
          >
          <td
            ><NumberField
              label="Altitude of {name}"
              hideLabel
              unit="m"
              value={room.altitude_m ?? 0}
              low={-500}
              high={6000}
              width={64}
              disabled={!build.editable}
              onchange={(value) => change(room.id, `altitude ${value}`, (own) => (own.altitude_m = value))}
            /></td
          >
          <td>
            {#if i === 0}<span class="soft">common day</span>
            {:else}
              <select
                class="field"
                aria-label="{name} is the"
                value={role(room.id)}
                disabled={!build.editable}
                onchange={(e) => setRole(room.id, e.currentTarget.value)}
              >
                <option value="">another room</option>
                <option value="hot day">hot day</option>
                <option value="cool day">cool day</option>
              </select>
            {/if}
          </td>
          <td
            ><button
              class="button small"
              aria-label="Take {name} out"
              title={inUse(build.document!, room.id) ? "the air outside of the housing is of this room" : ""}
              disabled={!build.editable || i === 0 || inUse(build.document!, room.id)}
              onclick={() => build.edit(`take ${name} out`, (draft) => removeRoom(draft, room.id))}>×</button
            ></td
          >
        </tr>
      {/each}
    </tbody>
  </table>
</div>
<button
  class="button mt-2"
  disabled={!build.editable || rooms.length > 7}
  onclick={() => build.edit("add a room", (draft) => addRoom(draft))}>+ room</button
>

<style>
  .scrolls {
    position: relative;
    overflow-x: auto;
  }
  .small {
    padding: 0 8px;
  }
</style>
