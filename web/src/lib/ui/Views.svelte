<script lang="ts">
  /** The questions that a stage answers, one view each; the first one is the stage itself. */
  let {
    base,
    views,
    open,
    label = "Questions",
  }: {
    base: string;
    views: readonly { id: string; name: string; says: string }[];
    open: string;
    label?: string;
  } = $props();
</script>

<nav aria-label={label} class="views">
  {#each views as item (item.id)}
    <a
      href={`${base}${item.id ? `/${item.id}` : ""}`}
      aria-current={item.id === open ? "page" : undefined}
      title={item.says}>{item.name}</a
    >
  {/each}
</nav>

<style>
  .views {
    display: flex;
    flex-wrap: wrap;
    gap: 2px;
  }
  .views a {
    padding: 4px 10px;
    border-radius: 7px;
    color: var(--soft);
    font-weight: 550;
  }
  .views a[aria-current="page"] {
    background: var(--panel);
    color: var(--ink);
    box-shadow: inset 0 -2px 0 var(--accent);
  }
  .views a:hover {
    background: var(--sunk);
  }
  @media print {
    .views {
      display: none;
    }
  }
</style>
