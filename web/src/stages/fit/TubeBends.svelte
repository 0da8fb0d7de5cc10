<script lang="ts">
  import { client, type Schemas } from "$lib/api/client";
  import { Asked } from "$lib/state/asked.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { fixed } from "$lib/units/format";

  /** How tightly a soft tube bends before it kinks: radius, the ports of a U, the way along of an S. */
  type Tube = Required<Schemas["TubeIn"]>;
  let tube = $state<Tube>({ bore_mm: 10, outside_mm: 16, material: "soft_clear", at_c: 30, offset_mm: 40 });
  const asked = new Asked<Schemas["TubeBend"]>();
  const bend = $derived(asked.answer);
  const MATERIALS: [Tube["material"], string][] = [
    ["soft_clear", "soft clear"],
    ["rubber", "rubber"],
    ["polyurethane", "polyurethane"],
    ["silicone", "silicone"],
  ];
  const LENGTHS = [
    ["bore_mm", "bore", "mm", 1, 60],
    ["outside_mm", "outside", "mm", 1, 60],
    ["at_c", "as warm as", "°C", -40, 100],
    ["offset_mm", "set off by", "mm", 0, 2000],
  ] as const;

  $effect(() => {
    const body = { ...tube };
    return asked.ask((as) => client.POST("/api/tube-bend", { ...as, body }));
  });
</script>

<section class="bends" aria-label="Tube bends">
  <h3>How tightly a soft tube bends</h3>
  <div class="line">
    {#each LENGTHS as [key, label, unit, low, high] (key)}
      <NumberField {label} value={tube[key]} {unit} {low} {high} width={54} onchange={(value) => (tube[key] = value)} />
    {/each}
    <select class="field" aria-label="Tube of" bind:value={tube.material}>
      {#each MATERIALS as [id, text] (id)}<option value={id}>{text}</option>{/each}
    </select>
  </div>
  {#if bend}
    <p>
      Bends to <strong class="num">R {fixed(bend.radius_mm, 0)} ± {fixed(bend.half_mm, 0)} mm</strong> along its middle;
      a U needs ports <span class="num">{fixed(bend.u_pitch_mm, 0)} mm</span> apart, an S set off by
      <span class="num">{fixed(bend.s_offset_mm, 0)} mm</span> takes
      <span class="num">{fixed(bend.s_length_mm, 0)} mm</span> along.
      <span class="soft">The first 10 mm from a fitting stay straight; try the tube in the hand before you cut it.</span
      >
    </p>
  {/if}
  <Faults faults={asked.faults} />
</section>

<style>
  .bends {
    border-top: 1px solid var(--line);
    margin-top: 10px;
    padding-top: 6px;
  }
  h3 {
    font-weight: 650;
    font-size: 14px;
  }
  .line {
    display: flex;
    flex-wrap: wrap;
    gap: 6px 10px;
    align-items: baseline;
    font-size: 14px;
    margin: 6px 0;
  }
  p {
    font-size: 14px;
  }
</style>
