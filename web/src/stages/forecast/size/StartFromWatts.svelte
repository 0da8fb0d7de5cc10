<script lang="ts">
  import { opened, replaceBy } from "$lib/document/build";
  import { client, faultsOf, type Fault, type Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import RecipeWatts from "$lib/ui/RecipeWatts.svelte";
  import NumberFields, { type FieldSpec } from "$lib/ui/NumberFields.svelte";
  import Faults from "$lib/ui/Faults.svelte";

  /** An empty build: watts, room and what is wanted make a first machine and its first study. */
  let {
    build,
    begun,
  }: { build: BuildState; begun: (wanted: { margin: number; sound: number; height: number | null }) => Promise<void> } =
    $props();
  type Recipe = Schemas["RecipeOut"];
  let recipes = $state.raw<Recipe[]>([]);
  let recipeId = $state("water_loop");
  let watts = $state<(number | undefined)[]>([]);
  let wanted = $state({ margin: 12, sound: 36, height: null as number | null });
  let faults = $state.raw<Fault[]>([]);
  let busy = $state(false);
  const WANTED: FieldSpec[] = [
    { key: "margin", label: "Each part keeps at least", unit: "K", low: 0, high: 60, width: 84 },
    { key: "sound", label: "No louder than", unit: "dBA", low: 10, high: 80, width: 84 },
    { key: "height", label: "Stack at most", unit: "mm", low: 10, high: 500, width: 84 },
  ];
  const recipe = $derived(recipes.find((r) => r.id === recipeId));
  const figures = $derived(recipe?.asks.map((ask, i) => (i in watts ? watts[i] : ask.start_w)) ?? []);
  void client.GET("/api/recipes").then(({ data }) => (recipes = data ?? []));

  async function start(event: SubmitEvent) {
    event.preventDefault();
    const [processor_w = null, graphics_w = null, rest_w = null] = figures;
    busy = true;
    const { data, error } = await client.POST("/api/recipes/document", {
      body: {
        recipe: recipeId,
        name: build.document?.name ?? null,
        processor_w,
        graphics_w,
        rest_w,
        room_c: build.room,
      },
    });
    faults = data ? [] : faultsOf(error);
    if (data) {
      const made = opened(data);
      const worst = made.brief?.worst_workloads?.[0] ?? made.workloads[0]?.id ?? "";
      made.brief = { ...made.brief, margin_wanted_k: wanted.margin };
      for (const workload of made.workloads) if (workload.id === worst) workload.sound_ceiling_dba = wanted.sound;
      build.workloadId = worst;
      build.edit(`start: ${recipe?.name ?? recipeId}`, (draft) => replaceBy(draft, made));
      await begun($state.snapshot(wanted));
    }
    busy = false;
  }
</script>

<form class="panel mt-3 grid gap-3" onsubmit={start} aria-label="Start from watts">
  <h2>Nothing to size yet: start from watts</h2>
  <p class="soft">
    A first machine of this kind is put into the build, every figure marked as a guess; then its sizes are varied and
    every combination is solved.
  </p>
  <label class="flex items-center gap-2"
    >Way of cooling
    <select class="field" bind:value={recipeId} onchange={() => (watts = [])}>
      {#each recipes as item (item.id)}<option value={item.id}>{item.name}</option>{/each}
    </select>
    <span class="soft">{recipe?.says}</span></label
  >
  <p class="flex flex-wrap gap-x-6 gap-y-2">
    {#if recipe}<RecipeWatts
        asks={recipe.asks}
        {figures}
        onchange={(i, v) => (watts = figures.map((old, at) => (at === i ? v : old)))}
      />{/if}
    <NumberField label="Room" unit="°C" value={build.room} low={5} high={45} onchange={(v) => build.setRoom(v)} />
  </p>
  <p class="flex flex-wrap gap-x-6 gap-y-2">
    <NumberFields fields={WANTED} values={wanted} onchange={(key, value) => (wanted = { ...wanted, [key]: value })} />
  </p>
  <Faults {faults} alert />
  <p>
    <button class="button main" disabled={busy || !recipe || !build.editable}>{busy ? "Starting …" : "Size it"}</button>
  </p>
</form>
