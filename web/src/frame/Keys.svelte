<script lang="ts">
  import { HELP } from "$lib/help";
  import Sheet from "$lib/ui/Sheet.svelte";
  import OriginLegend from "$lib/ui/OriginLegend.svelte";
  import { STAGES } from "./stages";

  /** Help of the stage in view, and every key. */
  let { stage, guide, close }: { stage: string; guide: (() => void) | undefined; close: () => void } = $props();
  let single = $state(localStorage.getItem("single-keys") !== "0");
  const help = $derived(HELP[stage]);
  const name = $derived(STAGES.find((one) => one.id === stage)?.name ?? "");
  const rows = [
    ["1 … 9, 0", "stages: 1 Brief, 2 Heat, 3 Route, 4 Air, 5 Fit, 6 Forecast, 7 Bench, 8 Verdict, 0 Logbook"],
    ["[  ]", "workload before, after"],
    ["s", "size it: candidates"],
    ["/", "find a part, a figure or a question"],
    ["d", "fold or open the drawer"],
    ["a", "add a part, source, air path, chamber or loop"],
    ["Alt 1 … 6", "in the add sheet: part, source, air path, chamber, loop, set"],
    ["f, t", "on Air: flip the path in view, turn the housing; both solutions side by side"],
    ["Ctrl Z, Ctrl Shift Z", "undo, redo"],
    ["← → ↑ ↓", "go through a drawing: terraces, ring, faces"],
    ["Alt ↑ ↓ ← →", "move the bead or element in focus along its loop or path; Del takes it out"],
    ["Esc", "close what is open"],
    ["?", "this help"],
  ];

  function toggle() {
    single = !single;
    localStorage.setItem("single-keys", single ? "1" : "0");
  }
</script>

<Sheet label="Help" title={name} width={420} {close}>
  {#if help}
    <p>{help.answers}</p>
    <h3 class="mt-3">Enter first</h3>
    <ol class="first">
      {#each help.first as line (line)}<li>{line}</li>{/each}
    </ol>
    {#if help.keys.length}
      <h3 class="mt-3">Keys of this stage</h3>
      <dl>
        {#each help.keys as [key, text] (key)}<dt class="num">{key}</dt>
          <dd>{text}</dd>{/each}
      </dl>
    {/if}
  {/if}
  {#if guide}<button class="button mt-3" onclick={guide}>Guide me through this build in six steps</button>{/if}
  <h3 class="mt-4">Where figures come from</h3>
  <OriginLegend />
  <h3 class="mt-4" id="all-keys">Keys</h3>
  <dl>
    {#each rows as [key, text] (key)}<dt class="num">{key}</dt>
      <dd>{text}</dd>{/each}
  </dl>
  <label class="mt-3 flex items-center gap-2"
    ><input type="checkbox" checked={single} onchange={toggle} /> single-key shortcuts on</label
  >
</Sheet>

<style>
  dl {
    display: grid;
    grid-template-columns: 130px 1fr;
    gap: 5px 12px;
    font-size: 14px;
  }
  h3 {
    font-weight: 650;
  }
  .first {
    list-style: decimal;
    padding-left: 20px;
  }
</style>
