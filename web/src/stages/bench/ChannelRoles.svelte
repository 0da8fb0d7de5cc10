<script lang="ts">
  import type { Schemas } from "$lib/api/client";

  /** What each channel of a log is taken for and why; those that somebody must look at stand first, each with a way to confirm it. */
  let {
    channels,
    roles,
    editable,
    onrole,
    onunit,
  }: {
    channels: Schemas["RunOut"]["channels"];
    roles: Schemas["RunOut"]["roles"];
    editable: boolean;
    onrole: (role: Record<string, string>) => void;
    onunit: (unit: Record<string, string>) => void;
  } = $props();
  const UNITS = ["°C", "°F", "K", "W", "rpm", "%", "MHz", "l/min", "dBA", "V"];
  let shown = $state(false);
  const isOpen = (channel: (typeof channels)[number]) => channel.asked || (!channel.sure && channel.role !== "ignore");
  const open = $derived(channels.filter(isOpen));
  const ordered = $derived([...channels].sort((a, b) => Number(isOpen(b)) - Number(isOpen(a))));
  /** one touch for all that were recognised though not surely */
  const confirmable = $derived(open.filter((channel) => !channel.asked));
</script>

<div class="mt-2 flex flex-wrap gap-2">
  <button class="button" onclick={() => (shown = !shown)} aria-expanded={shown}>
    Channels {open.length ? `(${open.length} to confirm)` : "(all recognised)"}
  </button>
  {#if shown && editable && confirmable.length > 1}
    <button
      class="button"
      onclick={() => onrole(Object.fromEntries(confirmable.map((channel) => [channel.index, channel.role])))}
      >Confirm all {confirmable.length}</button
    >
  {/if}
</div>
{#if shown}
  <table class="plain mt-1">
    <thead><tr><th>Channel</th><th>Taken for</th><th>Why</th></tr></thead>
    <tbody>
      {#each ordered as channel (channel.index)}
        <tr>
          <td>{channel.name} <span class="soft">{channel.unit}</span></td>
          <td>
            <select
              class="field"
              aria-label="role of {channel.name}"
              value={channel.role}
              disabled={!editable}
              onchange={(e) => onrole({ [channel.index]: e.currentTarget.value })}
            >
              {#each roles as item (item.role)}<option value={item.role}>{item.label}</option>{/each}
              {#if !roles.some((r) => r.role === channel.role)}<option value={channel.role}>{channel.role}</option>{/if}
            </select>
          </td>
          <td class="soft text-sm">
            {#if channel.asked}
              <label class="flex flex-wrap items-center gap-2"
                >unit
                <select
                  class="field"
                  aria-label="unit of {channel.name}"
                  disabled={!editable}
                  onchange={(e) => onunit({ [channel.index]: e.currentTarget.value })}
                >
                  <option value="">not known</option>
                  {#each UNITS as unit (unit)}<option>{unit}</option>{/each}
                </select></label
              >
            {:else if isOpen(channel)}
              <button
                class="button"
                disabled={!editable}
                aria-label="Confirm {channel.name}"
                onclick={() => onrole({ [channel.index]: channel.role })}>Confirm</button
              >
            {/if}
            {channel.reason || (channel.role === "ignore" ? "left out" : "recognised")}
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
  <p class="soft mt-1 text-sm">What you say here is remembered for the next log with the same channels.</p>
{/if}
