<script lang="ts">
  import type { Snippet } from "svelte";

  /** A sheet at the right side: its title, a way to close it, and what it holds. */
  let {
    label,
    title,
    width = 372,
    close,
    children,
  }: { label: string; title: string; width?: number; close: () => void; children: Snippet } = $props();

  /** The sheet takes the focus, unless something in it has it already, and gives it back to what opened it. */
  function keepsFocus(sheet: HTMLElement) {
    const opener = document.activeElement as HTMLElement | null;
    if (!sheet.contains(opener)) sheet.focus();
    return () => {
      if (opener?.isConnected && (document.activeElement === document.body || sheet.contains(document.activeElement)))
        opener.focus();
    };
  }
</script>

<section class="sheet" aria-label={label} style:width="{width}px" data-sheet tabindex="-1" {@attach keepsFocus}>
  <header>
    <h2>{title}</h2>
    <button class="button" onclick={close} aria-label="Esc: close the sheet">Esc</button>
  </header>
  {@render children()}
</section>

<style>
  .sheet:focus {
    outline: none;
  }
  .sheet {
    position: fixed;
    top: 66px;
    right: 0;
    bottom: 0;
    z-index: 21;
    overflow-y: auto;
    background: var(--panel);
    border-left: 2px solid var(--accent);
    padding: 14px 16px;
    box-shadow: -6px 0 24px rgb(0 0 0 / 0.14);
  }
  @media (max-width: 699px) {
    .sheet {
      top: 0;
      width: 100% !important;
      border-left: none;
      z-index: 40;
    }
  }
  header {
    display: flex;
    justify-content: space-between;
    align-items: center;
    margin-bottom: 10px;
  }
</style>
