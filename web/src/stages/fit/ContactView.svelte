<script lang="ts">
  import type { Schemas } from "$lib/api/client";
  import { fixed } from "$lib/units/format";
  import { JOINT_TONE } from "./words";

  /** A cut through a plate and what lies under it: heights to scale, air hatched, pads bulging, in millimetres. */
  let {
    fit,
    steps,
    selected,
    onselect,
  }: {
    fit: Schemas["ContactFit"];
    /** how far the plate's face stands back over each joint */
    steps: Record<string, number>;
    selected: string | null;
    onselect: (joint: string) => void;
  } = $props();
  let width = $state(360);
  const HIGH = 218;
  const BASE = HIGH - 34;
  const chip = $derived(fit.joints[0]!);
  const plane = $derived(chip.height_mm + fit.lifted_mm);
  const tallest = $derived(Math.max(...fit.joints.map((j) => j.height_mm + Math.max(j.gap_mm, 0)), plane) * 1.25);
  const scale = $derived(Math.min((BASE - 26) / Math.max(tallest, 1), 46));
  const each = $derived((width - 12) / fit.joints.length);
  const Y = (mm: number) => BASE - mm * scale;
  const under = $derived(
    fit.joints
      .map((joint, i) => {
        const [from, to] = [6 + i * each, 6 + (i + 1) * each];
        const y = Y(plane + (steps[joint.joint] ?? 0));
        return `L${from} ${y}H${to}`;
      })
      .join(""),
  );
</script>

<div bind:clientWidth={width}>
  <svg {width} height={HIGH} role="group" aria-label="Under {fit.name}">
    <defs>
      <pattern id="air" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="6" height="6" fill="var(--panel)" /><path d="M0 0V6" stroke="var(--too-hot)" stroke-width="2.2" />
      </pattern>
      <pattern id="metal" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
        <rect width="8" height="8" fill="var(--sunk)" /><path d="M0 0V8" stroke="var(--hatch)" stroke-width="1.2" />
      </pattern>
    </defs>
    <path d="M6 8{under.replace('L', 'L')}V8Z" fill="url(#metal)" stroke="var(--ink)" stroke-width="1.6" />
    <rect x="2" y={BASE} width={width - 4} height="9" fill="var(--hatch)" stroke="var(--ink)" />
    {#each fit.joints as joint, i (joint.joint)}
      {@const left = 6 + i * each + each * 0.18}
      {@const wide = each * 0.64}
      {@const top = Y(joint.height_mm)}
      {@const filled = joint.pad_mm ?? 0}
      {@const tone = JOINT_TONE[joint.says]}
      <g
        class="joint {tone}"
        class:on={selected === joint.joint}
        role="button"
        tabindex="0"
        aria-label="{joint.name}: {joint.says}, gap {fixed(joint.gap_mm, 2)} mm"
        onclick={() => onselect(joint.joint)}
        onkeydown={(e) => (e.key === "Enter" || e.key === " ") && (e.preventDefault(), onselect(joint.joint))}
      >
        <rect x={left} y={top} width={wide} height={BASE - top} class="body" />
        {#if joint.filler === "pad" && filled}
          {@const pad = Math.min(filled, Math.max(joint.gap_mm, 0.05)) * scale}
          <rect
            x={left - (joint.pressed ?? 0) * 10}
            y={top - pad}
            width={wide + (joint.pressed ?? 0) * 20}
            height={pad}
            rx="3"
            class="pad"
          />
          {#if joint.air_mm > 0.005}
            <rect
              x={left}
              y={top - pad - joint.air_mm * scale}
              width={wide}
              height={joint.air_mm * scale}
              fill="url(#air)"
            />
          {/if}
        {:else if joint.air_mm > 0.005 && i === 0}
          <rect x={left} y={top - joint.air_mm * scale} width={wide} height={joint.air_mm * scale} fill="url(#air)" />
        {/if}
        <text x={left + wide / 2} y={Math.min(BASE - 6, top + 16)} text-anchor="middle" class="num"
          >{fixed(joint.height_mm, 2)}</text
        >
        <text x={left + wide / 2} y={HIGH - 10} text-anchor="middle" class="name">{joint.name}</text>
        <text
          x={left + wide / 2}
          y={Math.max(24, top - Math.max(joint.gap_mm, 0) * scale - 7)}
          text-anchor="middle"
          class="says num"
          >{joint.pressed !== null && joint.pressed >= 0
            ? `${fixed(100 * joint.pressed, 0)} %`
            : joint.air_mm > 0.005
              ? `${fixed(joint.air_mm, 2)} air`
              : ""}</text
        >
      </g>
    {/each}
  </svg>
</div>

<style>
  .joint {
    cursor: pointer;
  }
  .joint:focus-visible {
    outline: none;
  }
  .body {
    fill: var(--line);
    stroke: var(--ink);
  }
  .joint.on .body,
  .joint:focus-visible .body {
    stroke: var(--accent);
    stroke-width: 2.4;
  }
  .pad {
    fill: #d6b878;
    fill-opacity: 0.75;
    stroke: var(--ink);
  }
  .joint.bad .pad {
    stroke: var(--too-hot);
    stroke-width: 2;
  }
  text {
    font-size: 12px;
    fill: var(--ink);
  }
  .name {
    font-weight: 650;
  }
  .says {
    font-weight: 700;
    paint-order: stroke;
    stroke: var(--sunk);
    stroke-width: 4px;
  }
  .joint.bad .name,
  .joint.bad .says {
    fill: var(--too-hot);
  }
  .joint.good .name {
    fill: var(--holds);
  }
  .joint.warn .name {
    fill: var(--tight);
  }
</style>
