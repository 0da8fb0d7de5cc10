<script lang="ts">
  import { MOUTHS, recirculate, recirculationOf, type DrawnAgain } from "$lib/document/air";
  import { valueOf, type AirPath, type Mouths } from "$lib/document/build";
  import type { BuildState } from "$lib/state/build.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { fixed } from "$lib/units/format";

  /** Exhaust that an intake draws in again: a share that is known, or how the two mouths lie. */
  let {
    build,
    path,
    exhausts,
    share,
  }: { build: BuildState; path: AirPath; exhausts: AirPath[]; share: number | null } = $props();
  /** a hand's breadth, until somebody says how far */
  const FIRST_MM = 80;
  const again = $derived(recirculationOf(build.document!, path.id));
  const known = $derived(!again || valueOf(again.recirculated_share) !== undefined);
  const mouths = $derived(again?.mouths ?? "free");
  const exhaust = $derived(again?.from_path ?? exhausts[0]!.id);
  const said = $derived<DrawnAgain | null>(
    !again
      ? null
      : known
        ? { recirculated_share: valueOf(again.recirculated_share)! }
        : { mouths, apart_mm: again.apart_mm ?? undefined },
  );

  function draw(from: string, how: DrawnAgain | null) {
    build.edit(`recirculation into ${path.name || path.id}`, (draft) => recirculate(draft, path.id, from, how));
  }

  function lie(how: string) {
    if (how === "no") draw(exhaust, null);
    else if (how === "share") draw(exhaust, { recirculated_share: Number((share ?? 0.1).toPrecision(2)) });
    else draw(exhaust, { mouths: how as Mouths, apart_mm: again?.apart_mm ?? FIRST_MM });
  }
</script>

<p class="mt-1 flex flex-wrap items-baseline gap-2 text-sm">
  <label class="flex max-w-full flex-wrap items-baseline gap-1"
    >Draws exhaust in again:
    <select
      class="field max-w-full"
      value={!again ? "no" : known ? "share" : mouths}
      disabled={!build.editable}
      onchange={(e) => lie(e.currentTarget.value)}
    >
      <option value="no">none</option>
      <option value="share">a share that I know</option>
      {#each Object.entries(MOUTHS) as [how, words] (how)}<option value={how}>mouths {words}</option>{/each}
    </select></label
  >
  {#if again && known}
    <NumberField
      label="Recirculates"
      unit="%"
      value={100 * valueOf(again.recirculated_share)!}
      low={0}
      high={95}
      width={58}
      disabled={!build.editable}
      onchange={(value) => draw(exhaust, { recirculated_share: value / 100 })}
    />
  {:else if again && mouths !== "opposite_faces"}
    <NumberField
      label={mouths === "over_feet" ? "Height of the feet" : "Edge to edge"}
      unit="mm"
      value={valueOf(again.apart_mm ?? undefined)}
      low={0}
      high={5000}
      width={64}
      disabled={!build.editable}
      onchange={(value) => draw(exhaust, { mouths, apart_mm: value })}
    />
  {/if}
  {#if again}
    <label
      >of
      <select
        class="field"
        aria-label="Recirculation"
        value={exhaust}
        disabled={!build.editable}
        onchange={(e) => draw(e.currentTarget.value, said)}
      >
        {#each exhausts as item (item.id)}<option value={item.id}>{item.name || item.id}</option>{/each}
      </select></label
    >
    {#if !known && share !== null}
      <span class="soft"
        >{fixed(100 * share, 0)} % ± {fixed(50 * share, 0)}, by class: weak, measure the intake air</span
      >
    {/if}
  {/if}
</p>
