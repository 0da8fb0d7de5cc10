<script lang="ts">
  import type { BuildState } from "$lib/state/build.svelte";
  import type { Face } from "$lib/document/build";
  import { FACES } from "$lib/document/housing";
  import { AIR_KINDS, BODY_KINDS, LOOP_KINDS } from "$lib/document/kinds";
  import { putPart, type NewPart } from "$lib/document/parts";
  import { copyOf, shelf } from "$lib/state/shelf.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";

  /** A part from the shelf into a loop, an air path, or both (a radiator). */
  let { build, into, added }: { build: BuildState; into: string | undefined; added: (text: string) => void } = $props();
  void shelf.load();
  /** these come with the route that leads through them */
  const BY_A_ROUTE = ["coolant", "interface", "spreader", "heat_pipe"];
  let text = $state("");
  let at = $state(0);
  let count = $state(1);
  let beside = $state(true);
  let face = $state<Face | "">("");
  let loopId = $state("");
  let pathId = $state("");
  let outside = $state("");
  let inside = $state("");
  let name = $state("");
  let box: HTMLInputElement | undefined = $state();

  const loops = $derived(build.document?.loops ?? []);
  const paths = $derived(build.document?.air_paths ?? []);
  const kinds = $derived(
    !into
      ? undefined
      : loops.some((l) => l.id === into)
        ? LOOP_KINDS
        : paths.some((p) => p.id === into)
          ? AIR_KINDS
          : undefined,
  );
  const found = $derived(shelf.found(text, kinds).filter((item) => !BY_A_ROUTE.includes(item.kind)));
  const chosen = $derived(found[Math.min(at, found.length - 1)]);
  const inLoop = $derived(!!chosen && LOOP_KINDS.includes(chosen.kind));
  /** a sink or panel stands in still air, unless it is put into a path */
  const isBody = $derived(!!chosen && BODY_KINDS.includes(chosen.kind) && !paths.some((p) => p.id === into));
  const inPath = $derived(!!chosen && AIR_KINDS.includes(chosen.kind) && !isBody);
  const zones = $derived(build.document ? build.document.zones : []);
  const air = $derived(outside || (zones.find((z) => z.kind === "outside") ?? zones[0])?.id || "");
  const loop = $derived(loopId || (loops.some((l) => l.id === into) ? into! : (loops[0]?.id ?? "")));
  const path = $derived(pathId || (paths.some((p) => p.id === into) ? into! : (paths[0]?.id ?? "")));
  const missing = $derived(
    !chosen
      ? "Nothing on the shelf has that name"
      : inLoop && !loop
        ? "Add a loop first"
        : inPath && !path
          ? "Add an air path first"
          : "",
  );

  function onkeydown(event: KeyboardEvent) {
    if (event.key === "ArrowDown") at = Math.min(at + 1, found.length - 1);
    else if (event.key === "ArrowUp") at = Math.max(at - 1, 0);
    else return;
    event.preventDefault();
  }

  function add(event: SubmitEvent) {
    event.preventDefault();
    const item = chosen;
    if (!item || missing) return;
    const label = name || item.name;
    const sides = isBody ? { outside: air, ...(inside ? { inside } : {}) } : {};
    const part = { ...copyOf(item), name: label, ...(face && (inPath || isBody) ? { face } : {}), ...sides } as NewPart;
    if (!isBody) delete (part as { outside?: string }).outside;
    const told = `${count > 1 ? `${count} × ` : ""}${label}`;
    const where = { loop: inLoop ? loop : "", path: inPath ? path : "", beside, count };
    build.edit(`add ${told}`, (draft) => putPart(draft, part, where));
    added(`Added ${told}.`);
    name = "";
    box?.focus();
    box?.select();
  }

  const focus = (node: HTMLInputElement) => node.focus();
</script>

<form onsubmit={add} class="grid gap-2">
  <input
    class="field w-full"
    placeholder="search the shelf: 120 fan, radiator 240, elbow …"
    aria-label="Search the shelf"
    role="combobox"
    aria-expanded="true"
    aria-controls="shelf-found"
    aria-activedescendant={chosen ? `shelf-${chosen.id}` : undefined}
    bind:value={text}
    bind:this={box}
    oninput={() => (at = 0)}
    {onkeydown}
    {@attach focus}
  />
  <ul role="listbox" id="shelf-found" aria-label="On the shelf">
    {#each found.slice(0, 60) as item, i (item.id)}
      <li
        role="option"
        id="shelf-{item.id}"
        tabindex="-1"
        aria-selected={item === chosen}
        class:on={item === chosen}
        onpointerdown={() => (at = i)}
      >
        <span>{item.name}</span><span class="soft"
          >{item.kind.replace("_", " ")}{item.own ? ", yours" : ""}{item.tried.length
            ? `, did not help: ${item.tried.at(-1)?.word}`
            : ""}</span
        >
      </li>
    {/each}
  </ul>
  <div class="flex flex-wrap items-baseline gap-x-4 gap-y-2">
    <NumberField
      label="How many"
      value={count}
      low={1}
      high={12}
      width={52}
      onchange={(v) => (count = Math.round(v))}
    />
    {#if count > 1 && inPath}
      <label class="flex items-center gap-1.5"><input type="checkbox" bind:checked={beside} /> beside each other</label>
    {/if}
  </div>
  <label>Name <input class="field w-52" bind:value={name} placeholder={chosen?.name ?? ""} maxlength="80" /></label>
  {#if inLoop}
    <label
      >Into the loop
      <select class="field" value={loop} onchange={(e) => (loopId = e.currentTarget.value)}>
        {#each loops as item (item.id)}<option value={item.id}>{item.name || item.id}</option>{/each}
      </select></label
    >
  {/if}
  {#if isBody}
    <label
      >Gives its heat to
      <select class="field" value={air} onchange={(e) => (outside = e.currentTarget.value)}>
        {#each zones as zone (zone.id)}<option value={zone.id}>{zone.name || zone.id}</option>{/each}
      </select></label
    >
    <label
      >Back face towards
      <select class="field" bind:value={inside}>
        <option value="">nothing</option>
        {#each zones.filter((z) => z.id !== air) as zone (zone.id)}<option value={zone.id}
            >{zone.name || zone.id}</option
          >{/each}
      </select></label
    >
  {/if}
  {#if inPath}
    <label
      >Into the path
      <select class="field" value={path} onchange={(e) => (pathId = e.currentTarget.value)}>
        {#each paths as item (item.id)}<option value={item.id}>{item.name || item.id}</option>{/each}
      </select></label
    >
  {/if}
  {#if inPath || isBody}
    <label
      >On the face
      <select class="field" bind:value={face}>
        <option value="">{isBody ? "none: it stands free" : "inside"}</option>
        {#each FACES as item (item)}<option value={item}>{item}</option>{/each}
      </select></label
    >
  {/if}
  <div class="flex items-center gap-3">
    <button class="button main" disabled={!!missing || !build.editable}>Add</button>
    {#if missing}<span class="fault">{missing}</span>{:else}<span class="soft text-sm"
        >Enter adds; figures are its class's</span
      >{/if}
  </div>
</form>

<style>
  ul {
    max-height: 208px;
    overflow-y: auto;
    border: 1px solid var(--line);
    border-radius: 6px;
  }
  li {
    display: flex;
    justify-content: space-between;
    gap: 8px;
    width: 100%;
    padding: 3px 8px;
    text-align: left;
    cursor: pointer;
    font-size: 14px;
  }
  li.on {
    background: var(--sunk);
    font-weight: 650;
  }
</style>
