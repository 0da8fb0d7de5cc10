<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Command } from "$lib/document/build";
  import NumberField from "$lib/ui/NumberField.svelte";

  /** What the workload in view tells a fan or pump. */
  let { build, mover, name }: { build: BuildState; mover: string; name: string } = $props();
  const command = $derived(build.workload?.movers?.[mover]);

  function tell(what: string, told: Command) {
    build.edit(`${name}: ${what}`, (draft) => {
      const workload = draft.workloads.find((w) => w.id === build.workloadId);
      if (workload) workload.movers = { ...workload.movers, [mover]: told };
    });
  }
</script>

<label class="mb-1 flex items-center gap-2"
  ><input
    type="checkbox"
    checked={Boolean(command?.off)}
    disabled={!build.editable}
    onchange={(e) => (e.currentTarget.checked ? tell("off", { off: true }) : tell("on", { duty: 0.6 }))}
  />
  off in this workload</label
>
<NumberField
  label="duty in this workload"
  unit="%"
  value={(command?.duty ?? 1) * 100}
  low={0}
  high={100}
  width={64}
  disabled={!build.editable}
  onchange={(value) => tell("duty", { duty: value / 100 })}
/>
