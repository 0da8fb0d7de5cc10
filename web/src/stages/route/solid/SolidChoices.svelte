<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import { fieldOf } from "$lib/document/addresses";
  import type { BuildDocument, Part } from "$lib/document/build";
  import type { Field } from "$lib/document/fields";
  import { materials } from "$lib/state/materials.svelte";

  /** What of a solid is chosen from a list: material, finish, how it stands, what air it gives its heat to. */
  let {
    build,
    part,
    fields,
    change,
  }: {
    build: BuildState;
    part: Part;
    fields: Record<string, Field>;
    change: (what: string, make: (target: Record<string, unknown>, draft: BuildDocument) => void) => void;
  } = $props();
  void materials.load();
  type Choice = { field: Field; options: (readonly [string, string])[] };

  /** what is chosen of each kind, in this order; anything of plastic may be printed */
  const SHOWN: Record<string, string[]> = {
    sink: [
      "material",
      "finish",
      "face",
      "stands",
      "fins_along",
      "outside",
      "inside",
      "touched_for",
      "flanks",
      "facing",
    ],
    panel: ["material", "finish", "face", "lies", "outside", "inside", "touched_for"],
    heat_pipe: ["wick"],
    spreader: ["material"],
    pump: ["held"],
    supply: ["built_as"],
    source: ["power_kind"],
    radiator: ["metal"],
    opening: ["made_of", "plastic", "near"],
  };
  const PRINTED = ["duct", "obstacle", "gap", "interface", "cooler"];
  const NOTHING: Record<string, string> = {
    finish: "as the material is",
    face: "free",
    inside: "nothing",
    touched_for: "not touched",
    plastic: "no plastic",
    near: "not checked",
    held: "as usual",
    built_as: "its fan not counted",
  };
  const zones = $derived((build.document?.zones ?? []).map((zone) => [zone.id, zone.name || zone.id] as const));
  const inPath = $derived(
    build.document?.air_paths.some((path) => JSON.stringify(path.elements).includes(`"${part.id}"`)) ?? false,
  );
  const inRoute = $derived(build.document?.routes.some((r) => r.hops.some((h) => h.part === part.id)) ?? false);
  const keys = $derived(SHOWN[part.kind] ?? (PRINTED.includes(part.kind) && !inRoute ? ["plastic", "near"] : []));
  const touches = $derived((fieldOf(part, "touches") ?? []) as string[]);

  /** A part on a face stands as its face says; without one it is said. */
  const applies = (key: string) =>
    key === "stands" || key === "lies"
      ? !part.face
      : key === "fins_along"
        ? Boolean(part.face)
        : key !== "near" || Boolean(part.plastic);

  const hot = $derived([...(build.result?.bodies ?? []), ...(build.result?.places ?? [])]);
  const options = (field: Field): (readonly [string, string])[] => {
    if (field.key === "material" || field.key === "finish")
      return materials.of(field.key).map((item) => [item.id, item.name] as const);
    if (field.key === "outside" || field.key === "inside") return zones;
    if (field.key === "near") return [...hot.map((item) => [item.address, item.name] as const), ...zones];
    return field.choices.map((value) => [value, value.replaceAll("_", " ")] as const);
  };
  const shown = $derived<Choice[]>(
    keys.filter(applies).flatMap((key) => {
      const field = fields[key];
      return field ? [{ field, options: options(field) }] : [];
    }),
  );
  const nothing = (field: Field) =>
    field.key === "outside" ? (inPath ? "the stream it stands in" : "nothing") : (NOTHING[field.key] ?? "nothing");

  function touch(metal: string, on: boolean) {
    change("faces", (target) => {
      const kept = touches.filter((other) => other !== metal);
      target["touches"] = on ? [...kept, metal] : kept;
    });
  }

  function choose(field: Field, value: string) {
    change(field.label, (target) => {
      if (value) target[field.key] = value;
      else delete target[field.key];
      if (field.key === "facing" && value !== "nothing" && !target["facing_mm"]) target["facing_mm"] = 50;
    });
  }
  const METALS = ["copper", "nickel", "aluminium", "brass", "stainless"];
</script>

{#if shown.length}
  <div class="choices">
    {#each shown as choice (choice.field.key)}
      {@const { field } = choice}
      <label for="choice-{field.key}">{field.label}</label>
      <select
        id="choice-{field.key}"
        class="field"
        value={(fieldOf(part, field.key) as string | undefined) ?? field.assumed ?? ""}
        disabled={!build.editable}
        onchange={(e) => choose(field, e.currentTarget.value)}
      >
        {#if field.empty}<option value="">{nothing(field)}</option>{/if}
        {#each choice.options as [value, name] (value)}<option {value}>{name}</option>{/each}
      </select>
    {/each}
  </div>
{/if}

{#if part.kind === "interface"}
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
