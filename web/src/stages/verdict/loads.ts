import type { Schemas } from "$lib/api/client";

export type Load = { key: string; run: string; window: string; name: string; card: Schemas["RunCard"] };

/** Every load of every run, by a key of its own: one run may have several windows. */
export const loadsOf = (cards: Schemas["RunCard"][]): Load[] =>
  cards.flatMap((card) =>
    card.windows.map((window) => ({
      key: `${card.id}/${window.id}`,
      run: card.id,
      window: window.id,
      name: card.windows.length > 1 ? `${card.name}, ${window.name || window.id}` : card.name,
      card,
    })),
  );

/** loads that are learnt from unless somebody ticks others: the newest ones, of the last two revisions that ran */
const NEWEST = 4;
export function toLearnFrom(loads: Load[]): Load[] {
  const newest = Math.max(...loads.map((load) => load.card.revision));
  return loads.filter((load) => load.card.revision >= newest - 1).slice(-NEWEST);
}
