/** Which candidates are the best for the two figures that are shown. */
import type { Result } from "$lib/state/study.svelte";
import { FIGURES, type Figure } from "./filter";

/** The two figures that dots lie on. */
export type Shown = { x: Figure; y: Figure };

/** Of margin more is better, of all else less. */
const isMore = (figure: Figure) => figure === "margin_k";

const valueOf = (result: Result, figure: Figure, number: number) => result.columns[figure]?.[number] ?? null;

/** figures that some candidate has */
export const known = (result: Result) => FIGURES.filter(([figure]) => result.columns[figure]?.some((v) => v !== null));

/** a figure that differs by less than this over all candidates says nothing across */
const DIFFERS = 1.5;

/** What lies across by itself: sound, or what differs first where every candidate is silent. */
export const acrossOf = (result: Result): Figure =>
  known(result).find(([figure]) => {
    const values = (result.columns[figure] ?? []).filter((value) => value !== null);
    return figure !== "margin_k" && Math.max(...values) - Math.min(...values) > DIFFERS;
  })?.[0] ?? "level_dba";

/** Candidates that meet every demand and are beaten by none of them in both figures shown, along the one across. */
export function frontOf(result: Result, inView: number[], { x, y }: Shown): number[] {
  const meets = new Set(result.meets);
  const sign = (figure: Figure) => (isMore(figure) ? -1 : 1);
  const of = (number: number) =>
    [x, y].map((figure) => sign(figure) * (valueOf(result, figure, number) ?? Infinity)) as [number, number];
  const rows = inView
    .filter((number) => meets.has(number))
    .map((number) => ({ number, at: of(number) }))
    .filter(({ at }) => at.every(Number.isFinite))
    .sort((a, b) => a.at[0] - b.at[0] || a.at[1] - b.at[1]);
  let best = Infinity;
  const front: number[] = [];
  for (const { number, at } of rows) {
    if (at[1] >= best) continue;
    best = at[1];
    front.push(number);
  }
  return isMore(x) ? front.reverse() : front;
}

/** Some of a front that stand for the whole of it: both ends, and what lies evenly between them. */
export function spreadOver(result: Result, front: number[], { x, y }: Shown, count: number): number[] {
  if (front.length <= count) return front;
  const scaled = (figure: Figure) => {
    const values = front.map((number) => valueOf(result, figure, number) ?? 0);
    const span = Math.max(...values) - Math.min(...values) || 1;
    return values.map((value) => value / span);
  };
  const [xs, ys] = [scaled(x), scaled(y)];
  const along = [0];
  for (let i = 1; i < front.length; i += 1)
    along.push(along[i - 1]! + Math.hypot(xs[i]! - xs[i - 1]!, ys[i]! - ys[i - 1]!));
  const picked = new Set([0, front.length - 1]);
  for (let i = 1; i < count - 1; i += 1) picked.add(nearest(along, (along.at(-1)! * i) / (count - 1), picked));
  return [...picked].sort((a, b) => a - b).map((index) => front[index]!);
}

/** The place of what lies nearest to a value, of those not taken yet. */
function nearest(values: number[], wanted: number, taken: Set<number>): number {
  const free = values.map((_, index) => index).filter((index) => !taken.has(index));
  return free.reduce((a, b) => (Math.abs(values[b]! - wanted) < Math.abs(values[a]! - wanted) ? b : a));
}
