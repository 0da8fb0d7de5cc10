<script lang="ts">
  import { client, faultsOf, sentence, type Prediction, type Schemas } from "$lib/api/client";
  import { cautionsFor, readWords } from "$lib/document/cautions";
  import { originOf, valueOf } from "$lib/document/build";
  import { BuildState } from "$lib/state/build.svelte";
  import { Marks } from "$lib/state/marks.svelte";
  import { StepPictures } from "$lib/state/step-pictures.svelte";
  import { kindOf, ORIGIN_WORDS } from "$lib/ui/origins";
  import { day, fixed, half, level, signed, watts } from "$lib/units/format";
  import { namesIn, storyOf } from "../stages/logbook/story";
  import FromOthers from "../stages/verdict/FromOthers.svelte";
  import { foretold } from "../stages/verdict/foretold";
  import { loadsOf } from "../stages/verdict/loads";
  import Miniature from "./home/Miniature.svelte";

  /** Everything about a build on paper: brief, heat, drawing, forecast with bands, runs, changes, cautions, method. */
  let { params }: { params: { id: string } } = $props();
  const build = new BuildState();
  const SAMPLES = 400;
  let prediction = $state.raw<Prediction | null>(null);
  let card = $state.raw<Schemas["Card"] | null>(null);
  let revisions = $state.raw<Schemas["RevisionOut"][]>([]);
  let measured = $state.raw<Schemas["MeasuredChange"][]>([]);
  let fromOthers = $state.raw<Schemas["FromOthers"][]>([]);
  let runs = $state.raw<{ card: Schemas["RunCard"]; verdict: Schemas["VerdictOut"] | null }[] | null>(null);
  let faults = $state.raw<string[]>([]);

  async function load(id: string) {
    await build.open(id);
    const path = { params: { path: { build_id: id } } };
    const { document } = build;
    if (!document) return;
    const asked = await client.POST("/api/predict", {
      body: { document, room_c: null, samples: SAMPLES, seed: 1 },
    });
    prediction = asked.data ?? null;
    faults = asked.error ? faultsOf(asked.error).map(sentence) : [];
    card = (await client.GET("/api/builds/{build_id}/card", path)).data ?? null;
    revisions = (await client.GET("/api/builds/{build_id}/revisions", path)).data ?? [];
    const cards = (await client.GET("/api/builds/{build_id}/runs", path)).data ?? [];
    runs = await Promise.all(
      cards.map(async (one) => {
        const found = await client.GET("/api/runs/{run_id}/verdict", { params: { path: { run_id: one.id } } });
        return { card: one, verdict: found.data ?? null };
      }),
    );
    measured = cards.length ? ((await client.GET("/api/builds/{build_id}/measured-changes", path)).data ?? []) : [];
    fromOthers = await foretold(id, loadsOf(cards));
  }

  const id = $derived(params.id);
  $effect(() => void load(id));
  const marks = new Marks();
  $effect(() => marks.open(id));
  const pictures = new StepPictures();
  $effect(() => void pictures.open(id));
  /** the oldest first; runs and revisions stand above with what they say */
  const happened = $derived(storyOf([], [], marks.all, namesIn(build.document), pictures.kept).reverse());

  const places = $derived(prediction?.workloads.find((workload) => workload.places.length)?.places ?? []);
  const sources = $derived(build.document?.parts.filter((part) => part.kind === "source") ?? []);
  const brief = $derived(build.document?.brief ?? {});
  const cautions = $derived(build.document ? cautionsFor(build.document) : []);
  const guesses = $derived(
    (build.document?.workloads ?? [])
      .flatMap((workload) => Object.values(workload.watts))
      .filter((figure) => originOf(figure) === "estimate").length,
  );
  const room = (roomId: string | null | undefined) =>
    build.document?.rooms.find((one) => one.id === roomId) ?? build.document?.rooms[0];
</script>

<article class="report">
  <p class="bar">
    <a class="button" href="#/build/{id}/logbook">Back to the build</a>
    <button class="button main" onclick={() => print()}>Print, or save as PDF</button>
  </p>
  {#if build.loadFaults.length}
    {#each build.loadFaults as fault, i (i)}<p class="fault">{sentence(fault)}</p>{/each}
  {:else if !build.document}
    <p class="soft">Loading …</p>
  {:else}
    <header>
      <h1>{build.document.name}</h1>
      <p class="soft">
        {build.revision ? `revision ${build.revision}${build.changed ? ", with changes since" : ""}` : "draft"}, printed {day(
          new Date(),
        )}
      </p>
      {#if brief.purpose}<p>{brief.purpose}</p>{/if}
    </header>
    {#if card?.place}
      <section class="first">
        <Miniature towers={card.towers} width={420} height={130} />
        <p class="say">
          {card.status}: {card.place} has {signed(card.margin_k)} ± {fixed(card.half_k)} K to spare in {card.workload},
          room {fixed(card.room_c, 0)} °C.
        </p>
      </section>
    {/if}
    <section>
      <h2>Brief</h2>
      <p>
        Room {fixed(valueOf(room(brief.coolest_room)?.air_c), 0)} to {fixed(
          valueOf(room(brief.hottest_room)?.air_c),
          0,
        )} °C; margin wanted {fixed(brief.margin_wanted_k ?? 3, 0)} K; listener at {fixed(brief.listener_m ?? 1)} m.
      </p>
    </section>
    <section>
      <h2>Heat, W</h2>
      <table class="plain">
        <thead
          ><tr
            ><th>Source</th>{#each build.document.workloads as workload (workload.id)}<th class="text-right"
                >{workload.name || workload.id}</th
              >{/each}</tr
          ></thead
        >
        <tbody>
          {#each sources as source (source.id)}
            <tr>
              <td>{source.name || source.id}</td>
              {#each build.document.workloads as workload (workload.id)}
                {@const figure = workload.watts[source.id]}
                <td class="num text-right"
                  >{figure === undefined ? "–" : watts(valueOf(figure))}
                  <span class="soft">{figure === undefined ? "" : ORIGIN_WORDS[kindOf(figure)]}</span></td
                >
              {/each}
            </tr>
          {/each}
        </tbody>
      </table>
      {#if guesses}<p class="soft">{guesses} of these are guesses: replace them before you buy by this report.</p>{/if}
    </section>
    <section>
      <h2>Forecast, °C with 90 % bands, room {fixed(build.room)} °C</h2>
      {#each faults as fault, i (i)}<p class="fault">{fault}</p>{/each}
      {#if prediction}
        <table class="plain">
          <thead
            ><tr
              ><th>Part</th><th>limit</th>{#each prediction.workloads as w (w.workload)}<th class="text-right"
                  >{w.name}</th
                >{/each}</tr
            ></thead
          >
          <tbody>
            {#each places as place, i (place.address)}
              <tr>
                <td>{place.name}</td>
                <td class="num">{fixed(place.limit_c, 0)}</td>
                {#each prediction.workloads as w (w.workload)}
                  {@const found = w.places[i]}
                  <td class="num text-right"
                    >{fixed(found?.temperature_c)} ± {fixed(half(found?.band_c))}
                    <span class="soft">{found?.status ?? ""}</span></td
                  >
                {/each}
              </tr>
            {/each}
            <tr>
              <td>Sound</td><td></td>
              {#each prediction.workloads as w (w.workload)}<td class="num text-right">{level(w.sound.total_dba)}</td
                >{/each}
            </tr>
          </tbody>
        </table>
        {#each prediction.workloads.at(-1)?.notices ?? [] as notice, i (i)}<p class="soft">{notice.text}</p>{/each}
      {:else if !faults.length}<p class="soft">Predicting …</p>{/if}
    </section>
    <section>
      <h2>Runs and verdicts</h2>
      {#each runs ?? [] as { card: run, verdict } (run.id)}
        <p><strong>{run.name}</strong>, {day(run.created)}, revision {run.revision}: {verdict?.sentence ?? "…"}</p>
        {#if run.note}<p class="soft">{run.note}</p>{/if}
        {#if run.pictures.length}
          <p class="pictures">
            {#each run.pictures as picture (picture.sha256)}
              <img
                src={`/api/runs/${run.id}/pictures/${picture.sha256}`}
                alt={picture.caption || "a picture of this run"}
              />
            {/each}
          </p>
        {/if}
      {:else}<p class="soft">{runs ? "No run yet." : "Reading the runs …"}</p>{/each}
      {#each fromOthers as run, i (i)}<FromOthers {run} />{/each}
    </section>
    <section>
      <h2>Changes</h2>
      {#each revisions as revision (revision.number)}
        <p>
          <strong>Revision {revision.number}</strong>, {day(revision.created)}, {revision.author}: {revision.why}
        </p>
        {#each measured.filter((one) => one.revision === revision.number) as change (change.after)}
          <p>
            Measured in {change.workload}: {signed(change.measured_k)} ± {fixed(change.half_k)} K on {change.part} against
            revision
            {change.before_revision}, {signed(change.predicted_k)} K by the model ({change.conclusion}).
          </p>
        {/each}
      {:else}<p class="soft">No revision yet.</p>{/each}
    </section>
    <section>
      <h2>What happened</h2>
      {#each happened as entry, i (i)}
        <p class:grave={entry.grave}>
          <span class="soft">{day(new Date(entry.at))}</span>, <strong>{entry.what}</strong>: {entry.text}{entry.who
            ? `, ${entry.who}`
            : ""}
        </p>
        {#if entry.picture}
          {@const kept = pictures.kept.find((one) => one.sha256 === entry.picture)}
          {#if kept}<p class="pictures"><img src={pictures.source(kept)} alt={entry.text || "a picture"} /></p>{/if}
        {/if}
      {:else}<p class="soft">No remark, incident or care was written down.</p>{/each}
    </section>
    <section>
      <h2>Cautions</h2>
      {#each cautions as caution (caution.id)}
        <p>
          ▲ {caution.text}
          <span class="soft">{readWords(build.document, caution.id, marks.readBy(caution.id)) ?? "not read yet"}</span>
        </p>
      {/each}
      <p>
        Local codes and licensed practice decide over everything here, above all about mains voltage and about water
        beside electricity.
      </p>
    </section>
    <section>
      <h2>Method and limits</h2>
      <p>
        One network of liquid, air and solid is solved for heat and flow at once; every figure is drawn {SAMPLES} times within
        its tolerance, and 90 % of the answers lie within the band. Figures that nobody stated are those of their class. Laws
        and classes with their sources are listed in the method pages that come with Krill (docs/method).
      </p>
      <p>An estimate from class-typical and stated figures. It certifies nothing.</p>
    </section>
  {/if}
</article>

<style>
  .report {
    max-width: 900px;
    margin: 0 auto;
    padding: 20px 24px 40px;
    background: var(--panel);
  }
  .bar {
    display: flex;
    gap: 8px;
    justify-content: flex-end;
  }
  section {
    margin-top: 18px;
    break-inside: avoid;
  }
  h2 {
    border-bottom: 1.5px solid var(--ink);
    margin-bottom: 6px;
  }
  .say {
    font-size: 18px;
    font-weight: 650;
    margin-top: 8px;
  }
  .say::first-letter {
    text-transform: uppercase;
  }
  table {
    font-size: 13.5px;
  }
  .grave strong {
    color: var(--too-hot);
  }
  .pictures {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
  }
  .pictures img {
    height: 120px;
    border: 1px solid var(--line);
  }
  @media print {
    .bar {
      display: none;
    }
    .report {
      padding: 0;
      max-width: none;
    }
  }
</style>
