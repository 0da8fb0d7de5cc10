<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Runs } from "$lib/state/runs.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";

  /** How the machine was set while it ran, as far as somebody noted it: what a fair comparison asks for. */
  let { build, runs }: { build: BuildState; runs: Runs } = $props();
  const run = $derived(runs.run!);
  const settings = $derived(run.document.settings ?? {});
  const limits = $derived(settings.power_limits ?? []);
  const sources = $derived((build.document?.parts ?? []).filter((part) => part.kind === "source"));
  const limited = $derived(sources.filter((part) => limits.some((limit) => limit.source === part.id)));
  const others = $derived(sources.filter((part) => !limited.includes(part)));
  let open = $state(false);
  const nameOf = (id: string) => build.sourceNames[id] ?? id;

  const change = (next: Partial<Schemas["Settings"]>) => runs.change({ settings: { ...settings, ...next } });
  const limit = (source: string, next: Partial<Schemas["PowerLimit"]>) =>
    change({ power_limits: limits.map((one) => (one.source === source ? { ...one, ...next } : one)) });
  const said = $derived(
    [
      ...limits.map((one) => `${nameOf(one.source)} limited to ${one.granted_w ?? one.wanted_w ?? "?"} W`),
      settings.lid ? `lid ${settings.lid}` : "",
      settings.filter ? (settings.filter === "none" ? "no filter" : `filter ${settings.filter}`) : "",
      settings.fans_by ? `fans by ${settings.fans_by}` : "",
      settings.firmware ?? "",
      ...(settings.locked ?? []).map((one) => `${one} locked`),
    ].filter(Boolean),
  );
</script>

<p class="mt-1 flex flex-wrap items-center gap-2">
  <button class="link" aria-expanded={open} onclick={() => (open = !open)}>How it was set</button>
  <span class="soft">{said.join(", ") || "nothing noted"}</span>
</p>
{#if open}
  <fieldset class="mt-1 flex flex-wrap items-center gap-x-4 gap-y-2" disabled={!build.editable}>
    <label class="flex items-center gap-2"
      >Lid
      <select
        class="field"
        value={settings.lid ?? ""}
        onchange={(e) => change({ lid: (e.currentTarget.value || null) as "on" | "off" | null })}
      >
        <option value="">not noted</option><option value="on">on</option><option value="off">off</option>
      </select></label
    >
    <label class="flex items-center gap-2"
      >Filter
      <select
        class="field"
        value={settings.filter ?? ""}
        onchange={(e) => change({ filter: (e.currentTarget.value || null) as "none" | "clean" | "dusty" | null })}
      >
        <option value="">not noted</option><option value="none">none</option><option value="clean">clean</option><option
          value="dusty">dusty</option
        >
      </select></label
    >
    <label class="flex items-center gap-2"
      >Fans commanded by <input
        class="field w-36"
        maxlength="200"
        value={settings.fans_by ?? ""}
        onchange={(e) => change({ fans_by: e.currentTarget.value })}
      /></label
    >
    <label class="flex items-center gap-2"
      >Firmware <input
        class="field w-36"
        maxlength="200"
        value={settings.firmware ?? ""}
        onchange={(e) => change({ firmware: e.currentTarget.value })}
      /></label
    >
    <label class="flex items-center gap-2"
      >Locked <input
        class="field w-44"
        maxlength="400"
        placeholder="fans, pump"
        value={(settings.locked ?? []).join(", ")}
        onchange={(e) =>
          change({
            locked: e.currentTarget.value
              .split(",")
              .map((one) => one.trim())
              .filter(Boolean),
          })}
      /></label
    >
    {#each limited as source (source.id)}
      {@const told = limits.find((one) => one.source === source.id)!}
      <span class="flex flex-wrap items-center gap-2">
        <strong>{nameOf(source.id)}</strong>
        <NumberField
          label="limit wanted"
          unit="W"
          value={told.wanted_w ?? undefined}
          low={0}
          high={5000}
          width={62}
          onchange={(v) => limit(source.id, { wanted_w: v })}
          onclear={() => limit(source.id, { wanted_w: null })}
        />
        <NumberField
          label="granted"
          unit="W"
          value={told.granted_w ?? undefined}
          low={0}
          high={5000}
          width={62}
          onchange={(v) => limit(source.id, { granted_w: v })}
          onclear={() => limit(source.id, { granted_w: null })}
        />
        <button class="link" onclick={() => change({ power_limits: limits.filter((one) => one.source !== source.id) })}
          >remove</button
        >
      </span>
    {/each}
    {#if others.length}
      <label class="flex items-center gap-2"
        ><span class="soft">A power limit of</span>
        <select
          class="field"
          value=""
          onchange={(e) => change({ power_limits: [...limits, { source: e.currentTarget.value }] })}
        >
          <option value="">choose …</option>
          {#each others as part (part.id)}<option value={part.id}>{nameOf(part.id)}</option>{/each}
        </select></label
      >
    {/if}
  </fieldset>
{/if}
