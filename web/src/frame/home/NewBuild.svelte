<script lang="ts">
  import { push } from "svelte-spa-router";
  import { client, faultsOf, uploadArchive, type Fault, type Schemas } from "$lib/api/client";
  import { emptyBuild } from "$lib/document/empty";
  import { GUIDE, storeGuide } from "$lib/guide";
  import Faults from "$lib/ui/Faults.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import RecipeWatts from "$lib/ui/RecipeWatts.svelte";
  import FirstAnswer from "./FirstAnswer.svelte";
  import ShapePicture from "./ShapePicture.svelte";

  /** One choice of shape, then only the questions of that shape; any watt figure may be left out. */
  type Recipe = Schemas["RecipeOut"];
  const FIRST = "water_loop";
  let recipes = $state.raw<Recipe[]>([]);
  let recipeId = $state(FIRST);
  let name = $state("");
  let watts = $state<Record<string, (number | undefined)[]>>({});
  let room = $state(25);
  let inside = $state<Record<string, (number | undefined)[]>>({});
  let faults = $state.raw<Fault[]>([]);
  let busy = $state(false);
  let guided = $state(false);
  void client.GET("/api/recipes").then(({ data }) => (recipes = data ?? []));

  const shapes = $derived([...new Set(recipes.map((item) => item.shape))]);
  const ofShape = (shape: string) => recipes.filter((item) => item.shape === shape);
  const recipe = $derived(recipes.find((item) => item.id === recipeId));
  const variants = $derived(recipe ? ofShape(recipe.shape) : []);
  const figures = $derived(watts[recipeId] ?? recipe?.asks.map((ask) => ask.start_w) ?? []);
  const sides = $derived(inside[recipeId] ?? []);
  const SIDES = ["wide", "deep", "high"];
  /** The start's own size where a side was left out. */
  const insideOf = (own: readonly number[]) => own.map((side, i) => sides[i] ?? side) as [number, number, number];
  const asked = $derived({
    recipe: recipeId,
    name: name || null,
    processor_w: figures[0] ?? null,
    graphics_w: figures[1] ?? null,
    rest_w: figures[2] ?? null,
    room_c: room,
    inside_mm: recipe?.inside_mm && sides.some((side) => side !== undefined) ? insideOf(recipe.inside_mm) : null,
  });

  function setWatts(index: number, value: number | undefined) {
    watts[recipeId] = figures.map((old, i) => (i === index ? value : old));
  }

  function setSide(index: number, value: number | undefined) {
    inside[recipeId] = SIDES.map((_, i) => (i === index ? value : sides[i]));
  }

  async function made(answer: Promise<{ data?: Schemas["BuildOut"]; error?: unknown }>) {
    busy = true;
    const { data, error } = await answer;
    busy = false;
    if (data) {
      if (guided) storeGuide(data.id, []);
      await push(`/build/${data.id}/${guided ? GUIDE[0]!.stage : "route"}`);
    } else faults = faultsOf(error);
  }

  function create(event: SubmitEvent) {
    event.preventDefault();
    void made(client.POST("/api/builds/recipe", { body: asked }));
  }

  const empty = () => made(client.POST("/api/builds", { body: { document: emptyBuild(name || "New build", room) } }));

  async function open(event: Event) {
    const input = event.target as HTMLInputElement;
    const file = input.files?.[0];
    if (!file) return;
    input.value = "";
    if (/\.zip$/i.test(file.name)) return void (await made(uploadArchive(file)));
    try {
      const document = JSON.parse(await file.text()) as Schemas["Build"];
      await made(client.POST("/api/builds", { body: { document } }));
    } catch {
      faults = [{ where: file.name, what: "not JSON", allowed: "a build document, or an archive of one" }];
    }
  }
</script>

<section aria-labelledby="new-build">
  <div class="mb-2 flex flex-wrap items-baseline gap-x-4 gap-y-1">
    <h2 id="new-build" class="text-xl">New build</h2>
    <span class="soft">choose the shape; leave out what you do not know</span>
    <button class="link ml-auto" disabled={busy} onclick={empty}>Empty build</button>
    <label class="link">
      Open a build file
      <input type="file" accept=".json,.zip,application/json,application/zip" class="sr-only" onchange={open} />
    </label>
  </div>
  <form onsubmit={create}>
    <div class="shapes" role="radiogroup" aria-label="Shape">
      {#each shapes as shape (shape)}
        {@const own = ofShape(shape)}
        <label class="shape" class:on={recipe?.shape === shape}>
          <input
            type="radio"
            class="sr-only"
            name="shape"
            value={shape}
            checked={recipe?.shape === shape}
            onchange={() => (recipeId = own[0]!.id)}
          />
          <ShapePicture picture={own[0]!.picture} />
          <span>{shape}</span>
        </label>
      {/each}
    </div>
    {#if recipe}
      <div class="questions">
        <div class="picture"><ShapePicture picture={recipe.picture} width={224} height={140} /></div>
        <div class="grid content-start gap-3">
          {#if variants.length > 1}
            <label class="flex flex-wrap items-center gap-2"
              >Cooled by
              <select class="field" bind:value={recipeId}>
                {#each variants as item (item.id)}<option value={item.id}>{item.variant}</option>{/each}
              </select></label
            >
          {/if}
          <p class="soft">{recipe.says}</p>
          <div class="flex flex-wrap gap-x-5 gap-y-2">
            <RecipeWatts asks={recipe.asks} {figures} onchange={setWatts} />
          </div>
          {#if recipe.inside_mm}
            <div class="flex flex-wrap gap-x-4 gap-y-2">
              <span class="soft">Inside</span>
              {#each SIDES as side, i (side)}
                <NumberField
                  label={side}
                  unit="mm"
                  width={64}
                  value={sides[i]}
                  placeholder={String(recipe.inside_mm[i])}
                  low={20}
                  high={3000}
                  onchange={(v) => setSide(i, v)}
                  onclear={() => setSide(i, undefined)}
                />
              {/each}
            </div>
          {/if}
          <NumberField label="Room" unit="°C" value={room} low={5} high={45} onchange={(v) => (room = v)} />
          <p class="soft text-sm">A figure that you leave out is the one shown in grey, marked as a guess.</p>
        </div>
        <FirstAnswer {asked} />
        <div class="grid content-start gap-3">
          <label class="grid gap-1">
            <span class="soft">Name</span>
            <input class="field w-full" bind:value={name} placeholder={recipe.name} maxlength="120" />
          </label>
          <label class="flex items-center gap-2"
            ><input type="checkbox" bind:checked={guided} /> guide me, six steps</label
          >
          <button class="button main" disabled={busy}>{busy ? "Creating …" : "Create build"}</button>
          <Faults {faults} alert />
          <p class="soft text-sm">
            Opens at {guided ? "Brief" : "Route"}. All other figures are those of their class until you replace them.
          </p>
        </div>
      </div>
    {:else}
      <p class="soft">Loading …</p>
    {/if}
  </form>
</section>

<style>
  .link:focus-within {
    outline: 2px solid var(--accent);
    outline-offset: 2px;
  }
  .shapes {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(106px, 1fr));
    gap: 2px;
  }
  .shape {
    display: grid;
    justify-items: center;
    align-content: start;
    gap: 2px;
    padding: 4px 3px 8px;
    border-top: 3px solid transparent;
    text-align: center;
    font-size: 13.5px;
    line-height: 1.25;
    cursor: pointer;
  }
  .shape :global(svg) {
    max-width: 100%;
  }
  .shape:hover {
    border-color: var(--line);
  }
  .shape.on {
    background: var(--panel);
    border-color: var(--accent);
    border-radius: 8px 8px 0 0;
    font-weight: 700;
  }
  .shape:focus-within {
    outline: 2px solid var(--accent);
    outline-offset: -2px;
  }
  .questions {
    display: grid;
    grid-template-columns: 236px minmax(0, 1fr) 210px 200px;
    gap: 22px;
    background: var(--panel);
    border-radius: 0 0 10px 10px;
    padding: 16px 18px;
  }
  @media (max-width: 1100px) {
    .questions {
      grid-template-columns: minmax(0, 1fr) 210px;
    }
    .picture {
      display: none;
    }
  }
  @media (max-width: 700px) {
    .questions {
      grid-template-columns: minmax(0, 1fr);
    }
    .shapes {
      grid-template-columns: repeat(auto-fill, minmax(96px, 1fr));
    }
  }
</style>
