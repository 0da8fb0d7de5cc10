<script lang="ts">
  import type { BuildState } from "$lib/build.svelte";
  import { fieldOf } from "$lib/document/addresses";
  import type { BuildDocument, Part } from "$lib/document/build";
  import { FACES } from "$lib/document/housing";
  import { materials } from "$lib/materials.svelte";

  /** What of a solid is chosen from a list: material, finish, how it stands, what air it gives its heat to. */
  let {
    build,
    owner,
    kind,
    change,
  }: {
    build: BuildState;
    owner: Part;
    kind: string;
    change: (what: string, make: (target: Record<string, unknown>, draft: BuildDocument) => void) => void;
  } = $props();
  void materials.load();
  type Choice = { field: string; label: string; options: [string, string][]; none?: string; assumed?: string };

  const zones = $derived(
    (build.document ? build.document.zones : []).map((z) => [z.id, z.name || z.id] as [string, string]),
  );
  const inPath = $derived(
    build.document?.air_paths.some((path) => JSON.stringify(path.elements).includes(`"${owner.id}"`)) ?? false,
  );
  const inRoute = $derived(build.document?.routes.some((r) => r.hops.some((h) => h.part === owner.id)) ?? false);
  const material = $derived<Choice>({
    field: "material",
    label: "Material",
    assumed: kind === "spreader" ? "copper" : "aluminium_extruded",
    options: materials.of("material").map((m) => [m.id, m.name]),
  });
  const common = $derived<Choice[]>([
    material,
    {
      field: "finish",
      label: "Finish",
      none: "as the material is",
      options: materials.of("finish").map((m) => [m.id, m.name]),
    },
    { field: "face", label: "On the face", none: "free", options: FACES.map((f) => [f, f]) },
    { field: "outside", label: "Gives heat to", none: inPath ? "the stream it stands in" : "nothing", options: zones },
    { field: "inside", label: "Its back to", none: "nothing", options: zones },
    {
      field: "touched_for",
      label: "Touched for",
      none: "not touched",
      options: [
        ["1_s", "one second"],
        ["1_min", "one minute"],
        ["10_min", "ten minutes"],
        ["8_h", "eight hours"],
      ],
    },
  ]);
  const stands = $derived<Choice>(
    owner.face
      ? {
          field: "fins_along",
          label: "Fins run along its",
          assumed: "height",
          options: [
            ["height", "height"],
            ["width", "width"],
          ],
        }
      : {
          field: "stands",
          label: "It stands",
          assumed: "upright",
          options: [
            ["upright", "upright"],
            ["on_edge", "on edge"],
            ["lying_fins_up", "lying, fins up"],
            ["lying_fins_down", "lying, fins down"],
          ],
        },
  );
  const flanks: Choice = {
    field: "flanks",
    label: "Flanks",
    assumed: "covered",
    options: [
      ["covered", "covered"],
      ["free", "free"],
    ],
  };
  const facing: Choice = {
    field: "facing",
    label: "Before its fins",
    assumed: "nothing",
    options: [
      ["nothing", "nothing"],
      ["wall", "a wall"],
      ["sink", "a sink as warm"],
    ],
  };
  const lies: Choice = {
    field: "lies",
    label: "It lies",
    assumed: "vertical",
    options: [
      ["vertical", "vertical"],
      ["facing_up", "facing up"],
      ["facing_down", "facing down"],
    ],
  };
  const wick: Choice = {
    field: "wick",
    label: "Wick",
    assumed: "sintered",
    options: [
      ["sintered", "sintered"],
      ["grooved", "grooved"],
      ["mesh", "mesh"],
    ],
  };
  const printed = $derived<Choice[]>([
    {
      field: "plastic",
      label: "Printed of",
      none: "no plastic",
      options: ["pla", "petg", "abs", "asa", "pc", "pmma"].map((id) => [id, id.toUpperCase()]),
    },
    ...(owner.plastic
      ? [
          {
            field: "near",
            label: "As warm as",
            none: "not checked",
            options: [
              ...(build.result?.bodies ?? []).map((b) => [b.address, b.name] as [string, string]),
              ...(build.result?.places ?? []).map((p) => [p.address, p.name] as [string, string]),
              ...zones,
            ],
          },
        ]
      : []),
  ]);
  const METALS = ["copper", "nickel", "aluminium", "brass", "stainless"];
  const touches = $derived((fieldOf(owner, "touches") ?? []) as string[]);

  function touch(metal: string, on: boolean) {
    change("faces", (target) => {
      const kept = touches.filter((other) => other !== metal);
      target["touches"] = on ? [...kept, metal] : kept;
    });
  }

  const PRINTED_KINDS = ["duct", "opening", "obstacle", "gap", "interface", "cooler"];
  const shown = $derived<Choice[]>(
    kind === "sink"
      ? [...common.slice(0, 3), stands, ...common.slice(3), flanks, facing]
      : kind === "panel"
        ? [...common.slice(0, 3), ...(owner.face ? [] : [lies]), ...common.slice(3)]
        : kind === "heat_pipe"
          ? [wick]
          : kind === "spreader"
            ? [material]
            : PRINTED_KINDS.includes(kind) && !inRoute
              ? printed
              : [],
  );

  function choose(choice: Choice, value: string) {
    change(choice.label.toLowerCase(), (target) => {
      if (value) target[choice.field] = value;
      else delete target[choice.field];
      if (choice.field === "facing" && value !== "nothing" && !target["facing_mm"]) target["facing_mm"] = 50;
    });
  }
</script>

{#if shown.length}
  <div class="choices">
    {#each shown as choice (choice.field)}
      <label for="choice-{choice.field}">{choice.label}</label>
      <select
        id="choice-{choice.field}"
        class="field"
        value={(fieldOf(owner, choice.field) as string | undefined) ?? choice.assumed ?? ""}
        disabled={!build.editable}
        onchange={(e) => choose(choice, e.currentTarget.value)}
      >
        {#if choice.none}<option value="">{choice.none}</option>{/if}
        {#each choice.options as [value, name] (value)}<option {value}>{name}</option>{/each}
      </select>
    {/each}
  </div>
{/if}

{#if kind === "interface"}
  <fieldset class="touches">
    <legend class="soft">Its faces are of</legend>
    {#each METALS as metal (metal)}
      <label
        ><input
          type="checkbox"
          checked={touches.includes(metal)}
          disabled={!build.editable}
          onchange={(e) => touch(metal, e.currentTarget.checked)}
        />
        {metal}</label
      >
    {/each}
  </fieldset>
{/if}

<style>
  .touches {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 12px;
    margin: 6px 0;
  }
  .choices {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 4px 10px;
    align-items: center;
    margin: 8px 0;
  }
  select {
    width: 100%;
  }
</style>
