<script lang="ts">
  import type { Schemas } from "$lib/api/client";

  /** What each channel of a log is taken for; those that somebody must look at stand first, each with a way to confirm it. */
  let {
    channels,
    roles,
    editable,
    onrole,
  }: {
    channels: Schemas["RunOut"]["channels"];
    roles: { role: string; label: string }[];
    editable: boolean;
    onrole: (role: Record<string, string>) => void;
  } = $props();
  let shown = $state(false);
  const isOpen = (channel: { sure: boolean; role: string }) => !channel.sure && channel.role !== "ignore";
  const open = $derived(channels.filter(isOpen).length);
  const ordered = $derived([...channels].sort((a, b) => Number(isOpen(b)) - Number(isOpen(a))));
</script>

<button class="button mt-2" onclick={() => (shown = !shown)} aria-expanded={shown}>
  Channels {open ? `(${open} to confirm)` : "(all recognised)"}
</button>
{#if shown}
  <table class="plain mt-1">
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
            {#if isOpen(channel)}
              <button
                class="button"
                disabled={!editable}
                aria-label="Confirm {channel.name}"
                onclick={() => onrole({ [channel.index]: channel.role })}>Confirm</button
              >
            {:else}{channel.role === "ignore" ? "left out" : "recognised"}{/if}
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
