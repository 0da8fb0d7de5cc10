<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { type Face, type BuildDocument } from "$lib/document/build";
  import { FACES, lowerFace } from "$lib/document/housing";
  import NumberField from "$lib/ui/NumberField.svelte";

  /** The housing: inner size, what stands close to its faces, which of them are closed, which one lies below. */
  let { build }: { build: BuildState } = $props();
  type Housing = NonNullable<BuildDocument["housing"]>;
  const housing = $derived((build.document?.housing ?? {}) as Housing);
  const below = $derived(build.document ? lowerFace(build.document) : "bottom");
  const DOWN: Record<Face, [number, number, number]> = {
    bottom: [0, 0, -1],
    top: [0, 0, 1],
    front: [0, -1, 0],
    back: [0, 1, 0],
    left: [-1, 0, 0],
    right: [1, 0, 0],
  };

  function change(label: string, next: Housing) {
    build.edit(`housing: ${label}`, (draft) => (draft.housing = { ...housing, ...next }));
  }

  function size(axis: number, value: number) {
    const old = housing.inner_size_mm ?? [300, 200, 200];
    change("inner size", { inner_size_mm: old.map((v, i) => (i === axis ? value : v)) as [number, number, number] });
  }

  function near(face: Face, value: number) {
    const others = Object.fromEntries(Object.entries(housing.nearby_mm ?? {}).filter(([f]) => f !== face));
    change(`next to the ${face}`, { nearby_mm: value > 0 ? { ...others, [face]: value } : others });
  }

  function close(face: Face, closed: boolean) {
    const others = (housing.closed_faces ?? []).filter((f) => f !== face);
    change(`${face} ${closed ? "closed" : "open"}`, { closed_faces: closed ? [...others, face] : others });
  }
</script>

<section class="panel mt-2" aria-label="Housing">
  <div class="flex flex-wrap items-baseline gap-x-5 gap-y-2">
    {#each ["wide", "deep", "high"] as label, axis (label)}
      <NumberField
        {label}
        unit="mm"
        value={housing.inner_size_mm?.[axis]}
        low={10}
        high={3000}
        disabled={!build.editable}
        onchange={(value) => size(axis, value)}
      />
    {/each}
    <NumberField
      label="feet"
      unit="mm"
      value={housing.feet_mm ?? undefined}
      low={0}
      high={500}
      width={58}
      disabled={!build.editable}
      onchange={(value) => change("feet", { feet_mm: value })}
    />
    <label
      >lies on its
      <select
        class="field"
        value={below}
        disabled={!build.editable}
        onchange={(e) => change("position", { gravity: DOWN[e.currentTarget.value as Face] })}
      >
        {#each FACES as face (face)}<option value={face}>{face}</option>{/each}
      </select></label
    >
  </div>
  <table class="plain mt-2">
    <thead>
      <tr
        ><th>Face</th>{#each FACES as face (face)}<th>{face}</th>{/each}</tr
      >
    </thead>
    <tbody>
      <tr>
        <th scope="row">wall or table at</th>
        {#each FACES as face (face)}
          <td
            ><NumberField
              label="wall or table at the {face}"
              hideLabel
              unit="mm"
              value={housing.nearby_mm?.[face]}
              low={0}
              high={2000}
              width={58}
              disabled={!build.editable}
              onchange={(value) => near(face, value)}
            /></td
          >
        {/each}
      </tr>
      <tr>
        <th scope="row">closed</th>
        {#each FACES as face (face)}
          <td
            ><input
              type="checkbox"
              aria-label="{face} closed"
              checked={(housing.closed_faces ?? []).includes(face)}
              disabled={!build.editable}
              onchange={(e) => close(face, e.currentTarget.checked)}
            /></td
          >
        {/each}
      </tr>
    </tbody>
  </table>
  <p class="soft text-sm">
    What stands close to a face is drawn and warned of; a gap in the path (press a, search “gap”) counts what it costs.
  </p>
</section>
