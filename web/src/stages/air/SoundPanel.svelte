<script lang="ts">
  import { client, faultsOf, type Fault, type Schemas, type WorkloadResult } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import NumberField from "$lib/ui/NumberField.svelte";
  import { fixed, signed } from "$lib/units/format";
  import Faults from "$lib/ui/Faults.svelte";

  /** The sum of sound by source, and the fan speeds that would make a wanted level. */
  let { build, result }: { build: BuildState; result: WorkloadResult } = $props();
  const sound = $derived(result.sound);
  const loudest = $derived(Math.max(...sound.sources.map((s) => s.level_dba), 1));
  let wanted = $state<number | null>(null);
  let found = $state.raw<Schemas["SpeedForLevel"] | null>(null);
  let faults = $state.raw<Fault[]>([]);
  const target = $derived(wanted ?? sound.ceiling_dba ?? Math.round(sound.total_dba));

  const marks = $derived(
    [...new Map(sound.sources.flatMap((s) => s.marks).map((mark) => [mark.text, mark.db])).entries()].map(
      ([text, db]) => [db, text] as const,
    ),
  );

  function marksOf(source: Schemas["SoundSource"]): string {
    const tone = source.tone_hz === null ? [] : [`blade tone ${fixed(source.tone_hz, 0)} Hz`];
    return [...source.marks.map((mark) => `${signed(mark.db, 0)} dB ${mark.text}`), ...tone].join("; ");
  }

  async function search() {
    if (!build.document) return;
    const { data, error } = await client.POST("/api/speed-for-level", {
      body: { document: build.document, workload: build.workloadId, room_c: build.roomC, wanted_dba: target },
    });
    found = data ?? null;
    faults = data ? [] : faultsOf(error);
    if (!found) return;
    const duties = found.duties;
    void build.trial.propose(`all fans for ${fixed(found.total_dba)} dBA`, (draft) => {
      const workload = draft.workloads.find((w) => w.id === build.workloadId);
      if (!workload) return;
      const told = Object.entries(duties).map(([fan, duty]) => [fan, { duty: Math.round(duty * 1000) / 1000 }]);
      workload.movers = { ...workload.movers, ...(Object.fromEntries(told) as typeof workload.movers) };
    });
  }
</script>

<section class="panel" aria-label="Sound by source">
  <h2>
    Sound <span class="num">{fixed(sound.total_dba)}</span>
    <span class="soft">of {fixed(sound.ceiling_dba, 0)} dBA at {sound.at_m} m</span>
  </h2>
  <ul>
    {#each sound.sources.slice(0, 6) as source (source.address)}
      <li title={marksOf(source)}>
        <button class="name" onclick={() => (build.sheet = source.address)}
          >{source.name}{#if source.marks.length}<sup>{signed(source.marks[0]!.db, 0)}</sup>{/if}</button
        >
        <span class="bar"><span style:width="{Math.max((100 * source.level_dba) / loudest, 2)}%"></span></span>
        <span class="num">{fixed(source.level_dba)}</span>
      </li>
    {/each}
  </ul>
  {#if sound.sources.length > 6}<p class="soft text-sm">and {sound.sources.length - 6} quieter</p>{/if}
  {#each marks as [db, text] (text)}<p class="soft text-sm">{signed(db, 0)}: {text}</p>{/each}
  <div class="mt-1 flex flex-wrap items-baseline gap-2">
    <NumberField
      label="All fans for"
      value={target}
      unit="dBA"
      low={5}
      high={80}
      width={58}
      onchange={(v) => (wanted = v)}
    />
    <button class="button" onclick={search} disabled={!sound.sources.length}>Find speeds</button>
  </div>
  {#if found && !found.reached}<p class="fault">Not reached: {found.because}.</p>{/if}
  <Faults {faults} />
</section>

<style>
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 64px 40px;
    gap: 6px;
    align-items: center;
    font-size: 13.5px;
  }
  .name {
    text-align: left;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    cursor: pointer;
  }
  .num {
    text-align: right;
  }
  .bar span {
    display: block;
    height: 6px;
    border-radius: 3px;
    background: var(--soft);
  }
</style>
