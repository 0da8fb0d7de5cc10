<script lang="ts">
  let { close }: { close: () => void } = $props();
  let single = $state(localStorage.getItem("single-keys") !== "0");
  const rows = [
    ["1 … 9, 0", "stages: 1 Brief, 2 Heat, 3 Route, 4 Air, 6 Forecast, 7 Bench, 8 Verdict, 0 Logbook"],
    ["[  ]", "workload before, after"],
    ["s", "size it: candidates"],
    ["/", "find a part, a figure or a question"],
    ["d", "fold or open the drawer"],
    ["a", "add a part, source, air path, chamber or loop"],
    ["Alt 1 … 6", "in the add sheet: part, source, air path, chamber, loop, set"],
    ["f, t", "on Air: flip the path in view, turn the housing; both solutions side by side"],
    ["Ctrl Z, Ctrl Shift Z", "undo, redo"],
    ["← →", "move the bead in focus along the loop"],
    ["Alt ↑ ↓ ← →", "move the element in focus in its loop or path; Del takes it out"],
    ["Esc", "close what is open"],
    ["?", "this list"],
  ];

  function toggle() {
    single = !single;
    localStorage.setItem("single-keys", single ? "1" : "0");
  }
</script>

<section class="sheet panel" aria-label="Keys">
  <h2 class="mb-2">Keys</h2>
  <dl>
    {#each rows as [key, text] (key)}<dt class="num">{key}</dt>
      <dd>{text}</dd>{/each}
  </dl>
  <label class="mt-3 flex items-center gap-2"
    ><input type="checkbox" checked={single} onchange={toggle} /> single-key shortcuts on</label
  >
  <button class="button mt-3" onclick={close}>Close</button>
</section>

<style>
  .sheet {
    position: fixed;
    right: 24px;
    bottom: 24px;
    width: 430px;
    z-index: 30;
    box-shadow: 0 8px 30px rgb(0 0 0 / 0.25);
  }
  dl {
    display: grid;
    grid-template-columns: 130px 1fr;
    gap: 5px 12px;
  }
</style>
