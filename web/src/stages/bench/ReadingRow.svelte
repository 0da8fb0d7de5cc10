<script lang="ts">
  import type { Readable, Row } from "./readings";

  /** One reading of the grid: minute, what, as what, figure or word, and whether the load was on. */
  let { row, number, choices, remove }: { row: Row; number: number; choices: Readable[]; remove: () => void } =
    $props();
  const choice = $derived(choices.find((one) => one.role === row.role));
  const groups = $derived([...new Set(choices.map((one) => one.group))]);

  function choose(role: string) {
    row.role = role;
    row.word = choices.find((one) => one.role === role)?.words?.[0] ?? "";
    if (row.word) row.value = "";
  }
</script>

<tr>
  <td><input class="field num w-16" aria-label="minute {number}" bind:value={row.minute} inputmode="decimal" /></td>
  <td>
    <select
      class="field max-w-56"
      aria-label="part {number}"
      value={row.role}
      onchange={(e) => choose(e.currentTarget.value)}
    >
      {#each groups as group (group)}
        <optgroup label={group}>
          {#each choices.filter((one) => one.group === group) as { role, name } (role)}<option value={role}
              >{name}</option
            >{/each}
        </optgroup>
      {/each}
    </select>
  </td>
  <td>
    <select class="field" aria-label="kind {number}" bind:value={row.kind}>
      <option value="now">now</option><option value="highest">highest shown</option><option value="mean">mean</option>
    </select>
  </td>
  <td class="whitespace-nowrap">
    {#if choice?.words}
      <select class="field" aria-label="word {number}" bind:value={row.word}>
        {#each choice.words as word (word)}<option value={word}>{word}</option>{/each}
      </select>
    {:else}
      <input
        class="field num w-20 text-right"
        aria-label="figure {number}"
        bind:value={row.value}
        inputmode="decimal"
      /> <span class="soft">{choice?.unit ?? ""}</span>
    {/if}
  </td>
  <td class="whitespace-nowrap">
    <select class="field" aria-label="load {number}" bind:value={row.load}>
      <option value="on">on</option><option value="before">not yet on</option><option value="after">just ended</option>
    </select>
    {#if row.load === "after"}<input
        class="field num w-14 text-right"
        aria-label="seconds after the end {number}"
        bind:value={row.after}
        inputmode="decimal"
      /> <span class="soft">s ago</span>{/if}
  </td>
  <td><button class="button text-sm" aria-label="remove reading {number}" onclick={remove}>remove</button></td>
</tr>
