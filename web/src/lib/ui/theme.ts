/** What Flowbite's parts wear here: Krill's own colours, so that they follow light and dark by themselves. */
import type { ThemeConfig } from "flowbite-svelte";

export const THEME: ThemeConfig = {
  toast: {
    base: "fixed bottom-4 left-1/2 z-40 w-auto max-w-[min(560px,92vw)] -translate-x-1/2 items-center border border-(--line) border-l-4 border-l-(--accent) bg-(--panel) p-3 text-(--ink) shadow-lg dark:bg-(--panel) dark:text-(--ink)",
    content: "text-[15px]",
    close: "m-0 bg-(--sunk) text-(--ink) hover:bg-(--line) hover:text-(--ink) dark:bg-(--sunk) dark:text-(--ink)",
  },
};
