<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { fieldOf } from "$lib/document/addresses";
  import { ownerOf, type Command } from "$lib/document/build";
  import { drivenBy, FIXED, readShares, stepped } from "$lib/document/driven";
  import { isLocked, toggleLock } from "$lib/document/locks";
  import LockButton from "$lib/ui/LockButton.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { fixed } from "$lib/units/format";

  /** What the workload in view tells a fan or pump, and how it takes that: along the duty, in steps, or not at all. */
  let { build, mover, name }: { build: BuildState; mover: string; name: string } = $props();
  type Table = number[][] | null | undefined;
  const FIRST_STEPS = [0.4, 0.7, 1];
  const FIRST_RPM = 1000;
  const command = $derived(build.workload?.movers?.[mover]);
  const part = $derived(build.document ? ownerOf(build.document, mover) : undefined);
  const driven = $derived(drivenBy(fieldOf(part, "duty_speed") as Table));
  const isFan = $derived(fieldOf(part, "kind") === "fan");
  const told = $derived(
    command?.off ? "off" : command?.curve ? "curve" : (command?.speed_rpm ?? null) !== null ? "rpm" : "duty",
  );
  const address = $derived(`movers/${mover}`);
  const locked = $derived(!!build.document && isLocked(build.document, address));
  let wrong = $state("");

  function tell(what: string, next: Command) {
    build.edit(`${name}: ${what}`, (draft) => {
      const workload = draft.workloads.find((w) => w.id === build.workloadId);
      if (workload) workload.movers = { ...workload.movers, [mover]: next };
    });
  }

  const NEXT: Record<string, Command> = { duty: { duty: 0.6 }, rpm: { speed_rpm: FIRST_RPM }, off: { off: true } };

  function drive(what: string, table: [number, number][] | null) {
    build.edit(`${name}: ${what}`, (draft) => {
      const target = ownerOf(draft, mover) as unknown as Record<string, unknown> | undefined;
      if (!target) return;
      if (table) target["duty_speed"] = table;
      else delete target["duty_speed"];
    });
  }

  function take(kind: string) {
    if (kind === "fixed") drive("cannot be slowed", FIXED);
    else if (kind === "steps") drive("runs in steps", stepped(FIRST_STEPS));
    else drive("follows its duty", null);
  }

  function takeShares(text: string) {
    const shares = readShares(text);
    wrong = shares ? "" : "per cents of full speed, such as 40 70 100";
    if (shares) drive("steps", stepped(shares));
  }
</script>

<div class="mb-2 grid gap-2">
  <div class="flex flex-wrap items-center gap-2">
    <label
      ><span class="soft">In this workload</span>
      <select
        class="field"
        value={told}
        disabled={!build.editable}
        onchange={(e) => tell(e.currentTarget.value, NEXT[e.currentTarget.value]!)}
      >
        <option value="duty">a duty</option>
        <option value="rpm">a fixed speed</option>
        <option value="off">off</option>
        {#if told === "curve"}<option value="curve">a curve of its own</option>{/if}
      </select></label
    >
    {#if told === "duty"}
      <NumberField
        label="duty in this workload"
        hideLabel
        unit="%"
        value={(command?.duty ?? 1) * 100}
        low={0}
        high={100}
        width={64}
        disabled={!build.editable}
        onchange={(value) => tell("duty", { duty: value / 100 })}
      />
    {:else if told === "rpm"}
      <NumberField
        label="speed in this workload"
        hideLabel
        unit="rpm"
        value={command?.speed_rpm ?? undefined}
        low={0}
        high={30000}
        disabled={!build.editable}
        onchange={(value) => tell("speed", { speed_rpm: value })}
      />
    {:else if command?.curve}
      <span class="soft"
        >{command.curve.points.length} points, by {build.sourceNames[command.curve.sensor] ??
          command.curve.sensor}</span
      >
    {/if}
    <LockButton
      {locked}
      name="its speed"
      disabled={!build.editable}
      onclick={() => build.edit(`lock of ${name}, speed`, (draft) => toggleLock(draft, address))}
    />
  </div>
  {#if isFan}
    <div class="flex flex-wrap items-center gap-2">
      <label
        ><span class="soft">It is driven</span>
        <select
          class="field"
          value={driven.kind}
          disabled={!build.editable}
          onchange={(e) => take(e.currentTarget.value)}
        >
          <option value="free">along its duty</option>
          <option value="steps">in steps</option>
          <option value="fixed">at full speed, cannot be slowed</option>
          {#if driven.kind === "measured"}<option value="measured">by measured speeds</option>{/if}
        </select></label
      >
      {#if driven.kind === "steps"}
        <label
          ><span class="sr-only">Steps, % of full speed</span>
          <input
            class="field num w-32"
            value={driven.shares.map((share) => fixed(100 * share, 0)).join(" ")}
            disabled={!build.editable}
            onchange={(e) => takeShares(e.currentTarget.value)}
          /> <span class="soft text-sm">% of full speed</span></label
        >
      {/if}
      {#if wrong}<span class="fault" role="alert">{wrong}</span>{/if}
    </div>
  {/if}
</div>
