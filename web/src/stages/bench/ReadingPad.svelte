<script lang="ts">
  import type { Fault, Schemas } from "$lib/api/client";
  import type { BuildState } from "$lib/state/build.svelte";
  import Faults from "$lib/ui/Faults.svelte";
  import NumberPad from "$lib/ui/NumberPad.svelte";
  import { celsius, half, parseNumber } from "$lib/units/format";
  import { Card } from "./card.svelte";
  import { dueNext } from "./live";
  import { keepReadings, readable, ROOM, type Readable, type Reading } from "./readings";

  /** Readings by one hand beside the machine: one large figure, what is read next, a clock that runs from load on. */
  let {
    build,
    planned,
    arrived,
  }: {
    build: BuildState;
    /** what the plan says of the load in view: when to read, and what */
    planned?: Schemas["PlannedLoad"];
    arrived: (id: string) => Promise<void>;
  } = $props();
  const EVERY_MS = 1000;
  const card = new Card();
  const started = $derived(card.started);
  const kept = $derived(card.kept.readings);
  let now = $state(Date.now());
  /** by its role: the order may change while a figure is typed, when the plan arrives */
  let chosen = $state(ROOM);
  let typed = $state<Record<string, string>>({});
  let faults = $state.raw<Fault[]>([]);
  $effect(() => {
    card.open(build.id);
    const timer = setInterval(() => (now = Date.now()), EVERY_MS);
    return () => clearInterval(timer);
  });
  const due = $derived(planned?.due_min ?? []);
  const next = $derived(started === null ? null : dueNext(due, (now - started) / 60_000));
  const read = $derived(
    new Set(kept.filter((one) => one.window === build.workloadId && one.load_on).map((one) => one.minute)),
  );
  const done = (minute: number) => [...read].some((one) => Math.abs(one - minute) <= Math.max(0.1 * minute, 1));

  /** a hand beside a display reads temperatures; everything else that is a figure is asked for */
  let others = $state(false);
  const first = ({ role, unit }: Readable) => unit === "°C" && !/\/(touch|coolant_cold)$/.test(role);
  const all = $derived(readable(build).filter((one) => first(one) || (others && !one.words)));
  /** the room first, then what a verdict asked for, then what the plan finds worth reading, then the rest */
  const turn = (role: string) => {
    if (role === ROOM) return 0;
    if (build.readNext[0] === role) return 1;
    const at = planned?.note.indexOf(role) ?? -1;
    return at < 0 ? 99 : 2 + at;
  };
  const fields = $derived([...all].sort((a, b) => turn(a.role) - turn(b.role)));
  const at = $derived(
    Math.max(
      fields.findIndex((one) => one.role === chosen),
      0,
    ),
  );
  const field = $derived(fields[at]!);
  const following = $derived(fields[(at + 1) % fields.length]!);
  const value = $derived(typed[field.role] ?? "");
  const place = $derived(build.result?.places.find((one) => `${one.address}/temperature` === field.role));
  const seconds = $derived(started === null ? 0 : Math.max(Math.floor((now - started) / 1000), 0));
  const two = (number: number) => String(number).padStart(2, "0");
  const clock = $derived(`${Math.floor(seconds / 60)}:${two(seconds % 60)}`);
  const entered = $derived(fields.filter(({ role }) => role !== ROOM && parseNumber(typed[role] ?? "") !== null));

  function loadOn() {
    if (started === null) card.loadOn(build.workloadId, Date.now());
    else card.loadOff();
  }

  const step = () => (chosen = following.role);

  /** What was typed in this round, at its minute; before the load it is of the waiting machine. */
  function entries(minute: number, load_on: boolean): Reading[] {
    return entered.map(({ role }) => ({ minute, role, value: parseNumber(typed[role]!)!, kind: "now", load_on }));
  }

  async function keep() {
    if (entered.length) card.add(build.workloadId, entries(started === null ? 60 : card.minute(Date.now()), true));
    const room = parseNumber(typed[ROOM] ?? "") ?? undefined;
    typed = { [ROOM]: typed[ROOM] ?? "" };
    const told = await keepReadings(build, card.kept.readings, { start: room, end: undefined }, "", card.windows);
    faults = told.faults;
    if (!told.id) return;
    typed = {};
    card.clear();
    chosen = ROOM;
    await arrived(told.id);
  }

  /** A round of readings is put aside with its minute, and the next one begins. */
  function round() {
    card.add(build.workloadId, entries(card.minute(Date.now()), started !== null));
    typed = { [ROOM]: typed[ROOM] ?? "" };
    chosen = fields[1]?.role ?? ROOM;
  }
</script>

<div class="mt-2 grid gap-2" data-testid="reading-pad">
  <div class="flex items-center justify-between gap-3">
    <span class="clock num">{started === null ? "–:––" : clock}</span>
    <button class="button" onclick={loadOn}>{started === null ? "Load is on" : "Load is off"}</button>
  </div>
  {#if due.length && started !== null}
    <div class="due" aria-label="Planned readings" data-testid="due">
      {#each due as minute (minute)}
        <span class="num" class:done={done(minute)} class:ring={next?.at === minute}>{minute}</span>
      {/each}
      <span class="soft"
        >{#if !next}all planned readings are past{:else if next.in <= 0}read now{:else}next in
          <span class="num">{Math.ceil(next.in)} min</span>{/if}</span
      >
    </div>
  {/if}
  <div class="reading" aria-live="polite">
    <span class="font-semibold">{field.name}</span>
    <span class="value num">{value || "…"}<span class="unit">{field.unit}</span></span>
    {#if place}<span class="soft text-sm"
        >predicted {celsius(place.temperature_c)} ± {half(place.band_c)?.toFixed(1) ?? "–"}</span
      >{/if}
  </div>
  <div class="cells" role="group" aria-label="What is read">
    {#each fields as one, i (one.role)}
      <button class="cell" class:on={i === at} aria-pressed={i === at} onclick={() => (chosen = one.role)}>
        <span class="soft">{one.name}</span>
        <span class="num">{typed[one.role] ? `${typed[one.role]} ${one.unit}` : "–"}</span>
      </button>
    {/each}
    <button class="cell" aria-pressed={others} onclick={() => ((others = !others), (chosen = ROOM))}>
      <span class="soft">{others ? "fewer" : "also"}</span>
      <span>watts, speeds, score …</span>
    </button>
  </div>
  <NumberPad
    {value}
    next={following.name}
    onvalue={(next) => (typed = { ...typed, [field.role]: next })}
    onnext={step}
    onskip={step}
  />
  <div class="flex flex-wrap gap-2">
    <button class="button" disabled={!entered.length} onclick={round}
      >{started === null ? "These are before the load" : "Next round"}</button
    >
    <button class="button main grow" disabled={!(entered.length + kept.length) || !build.editable} onclick={keep}
      >Keep {entered.length + kept.length}
      {entered.length + kept.length === 1 ? "reading" : "readings"}</button
    >
  </div>
  <Faults {faults} alert />
</div>

<style>
  .clock {
    font-size: 40px;
    font-weight: 700;
    line-height: 1.1;
  }
  .due {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px;
  }
  .due > .num {
    min-width: 32px;
    padding: 2px 6px;
    text-align: center;
    border: 1.5px solid var(--line);
    border-radius: 14px;
  }
  .due .done {
    background: var(--sunk);
    text-decoration: line-through;
  }
  .due .ring {
    border-color: var(--accent);
    box-shadow: 0 0 0 2px var(--accent);
  }
  .reading {
    display: grid;
    border: 2.5px solid var(--accent);
    border-radius: 10px;
    padding: 6px 12px;
  }
  .value {
    font-size: clamp(48px, 18vw, 76px);
    font-weight: 700;
    line-height: 1.05;
  }
  .unit {
    font-size: 22px;
    font-weight: 400;
    margin-left: 8px;
  }
  .cells {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(104px, 1fr));
    gap: 5px;
  }
  .cell {
    display: grid;
    text-align: left;
    padding: 4px 8px;
    min-height: 46px;
    font-size: 13px;
    border: 1.5px solid var(--line);
    border-radius: 8px;
    background: var(--panel);
    cursor: pointer;
  }
  .cell.on {
    border-color: var(--accent);
  }
</style>
