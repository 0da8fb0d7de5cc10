/** Series/parallel trees: the elements of a loop or an air path in flow order. */
import type { Element } from "./build";

/** Ids of a series/parallel tree, in flow order. */
export function leaves(elements: Element[]): string[] {
  return elements.flatMap((element) => (typeof element === "string" ? [element] : element.parallel.flatMap(leaves)));
}

/** Rows of a series/parallel tree: each leaf with how deep it stands and which branch it is in. */
export function rows(elements: Element[], depth = 0, branch = ""): { id: string; depth: number; branch: string }[] {
  return elements.flatMap((element) =>
    typeof element === "string"
      ? [{ id: element, depth, branch }]
      : element.parallel.flatMap((series, i) => rows(series, depth + 1, branch ? `${branch}.${i + 1}` : String(i + 1))),
  );
}

/** A tree without an id; branches that become empty go, one branch left becomes part of the series. */
export function without(elements: Element[], id: string): Element[] {
  return elements.flatMap((element): Element[] => {
    if (typeof element === "string") return element === id ? [] : [element];
    const kept = element.parallel.map((series) => without(series, id)).filter((series) => series.length);
    if (!kept.length) return [];
    return kept.length === 1 ? kept[0]! : [{ parallel: kept }];
  });
}

export const reversed = (elements: Element[]): Element[] =>
  [...elements]
    .reverse()
    .map((element) => (typeof element === "string" ? element : { parallel: element.parallel.map(reversed) }));

export function insert(elements: Element[], ids: string[], beside: boolean, at = elements.length): Element[] {
  const added: Element[] = beside && ids.length > 1 ? [{ parallel: ids.map((id) => [id]) }] : ids;
  return [...elements.slice(0, at), ...added, ...elements.slice(at)];
}

/** A tree with an id put behind another one; beside it where that one is a branch of its own. */
export function insertAfter(elements: Element[], id: string, added: string): Element[] {
  return elements.flatMap((element): Element[] => {
    if (typeof element === "string") return element === id ? [element, added] : [element];
    const alone = element.parallel.findIndex((series) => series.length === 1 && series[0] === id);
    const branches = element.parallel.map((series, i) => (i === alone ? series : insertAfter(series, id, added)));
    return [{ parallel: alone < 0 ? branches : branches.toSpliced(alone + 1, 0, [added]) }];
  });
}
