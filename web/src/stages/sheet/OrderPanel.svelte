<script lang="ts">
  import { addRule, addStep, dropRule, removeRule, removeStep, tellStep } from "$lib/document/order";
  import type { BuildState } from "$lib/state/build.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import type { Sheet, Step } from "./sheet";

  /** What the designer says of the order: rules, steps and gates of their own; what contradicts, and what was dropped. */
  let { build, sheet, step }: { build: BuildState; sheet: Sheet; step: Step | null } = $props();
  const steps = $derived(sheet.order.steps);
  const nameOf = (id: string) =>
    steps.find((one) => one.id === id || one.items.includes(id))?.name ??
    build.document?.parts.find((part) => part.id === id)?.name ??
    id;
  let first = $state("");
  let then = $state("");
  let why = $state("");
  let own = $state({ name: "", gate: false });
  const rules = $derived(build.document?.assembly ?? []);
  const left = $derived((build.document?.steps ?? []).filter((one) => one.left_out));

  function rule(event: SubmitEvent) {
    event.preventDefault();
    build.edit(`${nameOf(first)} before ${nameOf(then)}`, (draft) => addRule(draft, first, then, why.trim()));
    why = "";
  }

  function more(event: SubmitEvent) {
    event.preventDefault();
    const name = own.name.trim();
    build.edit(`step: ${name}`, (draft) => addStep(draft, name, { gate: own.gate, minutes: own.gate ? 5 : 10 }));
    own = { name: "", gate: false };
  }
</script>

<section class="panel" aria-label="Order">
  <h2>Why this order</h2>
  {#each sheet.order.conflicts as conflict (conflict.first + conflict.then)}
    <p class="conflict">
      <span>▲ {conflict.says}</span>
      {#if build.editable && conflict.of !== "told"}
        <button
          class="link"
          onclick={() => build.edit("a rule is dropped", (draft) => dropRule(draft, conflict.first, conflict.then))}
          >drop it for good</button
        >
      {/if}
    </p>
  {/each}
  {#if step}
    <h3>{step.name}</h3>
    <ul>
      {#each step.because as one (one.step)}
        <li>
          <span
            >after <b>{nameOf(one.step)}</b>: {one.why || "you said so"}
            <span class="soft">{one.of === "needed" ? "" : one.of}</span></span
          >
          {#if build.editable && one.of !== "needed" && one.of !== "told"}
            <button
              class="link"
              onclick={() => build.edit("an order is dropped", (draft) => dropRule(draft, one.step, step.id))}
              >does not hold here</button
            >
          {/if}
        </li>
      {:else}<li class="soft">Nothing comes before it.</li>{/each}
    </ul>
    {#if build.editable}
      <div class="acts">
        <NumberField
          label="Minutes of {step.name}"
          hideLabel
          value={step.minutes}
          unit="min"
          low={0}
          high={100000}
          width={64}
          onchange={(minutes) =>
            minutes !== undefined && build.edit("minutes of a step", (draft) => tellStep(draft, step.id, { minutes }))}
        />
        <input
          class="field"
          aria-label="Tool of {step.name}"
          value={step.tool}
          placeholder="tool"
          maxlength="60"
          onchange={(event) =>
            build.edit("tool of a step", (draft) => tellStep(draft, step.id, { tool: event.currentTarget.value }))}
        />
        <button
          class="button"
          onclick={() =>
            build.edit(`${step.name} left out`, (draft) =>
              build.document!.steps.some((one) => one.id === step.id)
                ? removeStep(draft, step.id)
                : tellStep(draft, step.id, { left_out: true }),
            )}>Not needed here</button
        >
      </div>
    {/if}
  {/if}
  {#if left.length}
    <p class="soft">
      Left out: {#each left as one (one.id)}<button
          class="link"
          disabled={!build.editable}
          onclick={() => build.edit("a step is back", (draft) => removeStep(draft, one.id))}
          >{one.at ?? one.name}</button
        >
      {/each}
    </p>
  {/if}
  {#if rules.length}
    <ul>
      {#each rules as one, at (one.first + one.then)}
        <li>
          <span
            ><b>{nameOf(one.first)}</b>
            {one.holds === false ? "need not come before" : "before"} <b>{nameOf(one.then)}</b>{one.why
              ? `: ${one.why}`
              : ""}</span
          >
          {#if build.editable}<button
              class="link"
              onclick={() => build.edit("a rule is gone", (draft) => removeRule(draft, at))}>remove</button
            >{/if}
        </li>
      {/each}
    </ul>
  {/if}
  {#if build.editable}
    <form class="acts" onsubmit={rule}>
      <select class="field" aria-label="First" bind:value={first}>
        <option value="" disabled>first …</option>
        {#each steps as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
      </select>
      <span>before</span>
      <select class="field" aria-label="Then" bind:value={then}>
        <option value="" disabled>then …</option>
        {#each steps as one (one.id)}<option value={one.id}>{one.name}</option>{/each}
      </select>
      <input class="field grow" aria-label="Why" placeholder="because …" maxlength="300" bind:value={why} />
      <button class="button" disabled={!first || !then || first === then}>+ Rule</button>
    </form>
    <form class="acts" onsubmit={more}>
      <input
        class="field grow"
        aria-label="A step of your own"
        placeholder="a step of your own"
        maxlength="120"
        bind:value={own.name}
      />
      <label><input type="checkbox" bind:checked={own.gate} /> must be seen to work</label>
      <button class="button" disabled={!own.name.trim()}>+ Step</button>
    </form>
  {/if}
</section>

<style>
  section {
    display: grid;
    gap: 6px;
    margin-top: 10px;
  }
  li,
  .conflict {
    display: flex;
    gap: 10px;
    justify-content: space-between;
    align-items: baseline;
    border-top: 1px solid var(--line);
    padding: 2px 0;
    font-size: 14px;
  }
  .conflict {
    color: var(--tight);
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
  }
  .acts select {
    max-width: 190px;
  }
  .grow {
    flex: 1 1 120px;
  }
</style>
