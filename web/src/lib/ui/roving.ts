/** One tab stop for a whole drawing: arrows go to what lies nearest that way. */
type Middle = { x: number; y: number };
type Way = readonly [number, number];

export const WAYS: Record<string, Way> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
/** how much more a step aside counts than one ahead */
const ASIDE = 2;

/** Which of several middles lies nearest in a direction; -1 where none lies that way. */
export function nearestIn([dx, dy]: Way, from: Middle, middles: Middle[]): number {
  let best = -1;
  let least = Infinity;
  middles.forEach(({ x, y }, i) => {
    const ahead = (x - from.x) * dx + (y - from.y) * dy;
    const aside = Math.abs((x - from.x) * dy) + Math.abs((y - from.y) * dx);
    if (ahead > 1 && ahead + ASIDE * aside < least) [best, least] = [i, ahead + ASIDE * aside];
  });
  return best;
}

const middleOf = (element: Element): Middle => {
  const box = element.getBoundingClientRect();
  return { x: box.left + box.width / 2, y: box.top + box.height / 2 };
};

/** Attach to what holds the items; keys with a modifier are left to others. */
export function roving(selector: string) {
  return (holder: HTMLElement | SVGElement) => {
    const items = () => [...holder.querySelectorAll<HTMLElement | SVGElement>(selector)];
    let current: Element | null = null;

    function stop() {
      const all = items();
      if (!current || !all.includes(current as HTMLElement)) current = all[0] ?? null;
      for (const item of all) {
        const index = item === current ? "0" : "-1";
        if (item.getAttribute("tabindex") !== index) item.setAttribute("tabindex", index);
      }
    }

    function onfocusin(event: Event) {
      const item = (event.target as Element).closest(selector);
      if (!item || item === current) return;
      current = item;
      stop();
    }

    function onkeydown(event: Event) {
      const { key, altKey, ctrlKey, metaKey, shiftKey } = event as KeyboardEvent;
      const way = WAYS[key];
      const item = (event.target as Element).closest(selector);
      if (!way || !item || altKey || ctrlKey || metaKey || shiftKey) return;
      event.preventDefault();
      const others = items().filter((one) => one !== item);
      others[nearestIn(way, middleOf(item), others.map(middleOf))]?.focus();
    }

    const watch = new MutationObserver(stop);
    watch.observe(holder, { childList: true, subtree: true });
    holder.addEventListener("focusin", onfocusin);
    holder.addEventListener("keydown", onkeydown);
    stop();
    return () => {
      watch.disconnect();
      holder.removeEventListener("focusin", onfocusin);
      holder.removeEventListener("keydown", onkeydown);
    };
  };
}
