/** How a fan or pump takes a duty: along it, in steps, or not at all. Stored as duty against share of its rated speed. */
export type Driven = { kind: "free" } | { kind: "fixed" } | { kind: "steps"; shares: number[] } | { kind: "measured" };
type Map = [number, number][];

/** how far before a step the one below still counts */
const EDGE = 0.001;
const round = (value: number) => Number(value.toFixed(4));

export function drivenBy(table: readonly (readonly number[])[] | null | undefined): Driven {
  if (!table?.length) return { kind: "free" };
  const shares = [...new Set(table.map((row) => row[1]!))];
  if (shares.length === 1) return shares[0] === 1 ? { kind: "fixed" } : { kind: "steps", shares };
  const stairs = stepped(shares);
  const same =
    stairs.length === table.length && stairs.every((row, i) => row[0] === table[i]![0] && row[1] === table[i]![1]);
  return same ? { kind: "steps", shares } : { kind: "measured" };
}

/** Never slowed: full speed at every duty. */
export const FIXED: Map = [
  [0, 1],
  [1, 1],
];

/** Speeds of a switch or a board with a few of them, over equal parts of the duty. */
export function stepped(shares: number[]): Map {
  const rising = [...shares].sort((a, b) => a - b);
  return rising.flatMap((share, i): Map => {
    const from = i === 0 ? 0 : round(i / rising.length);
    const to = i === rising.length - 1 ? 1 : round((i + 1) / rising.length - EDGE);
    return [
      [from, share],
      [to, share],
    ];
  });
}

/** Shares of full speed as typed: per cents, parted by blanks or semicolons; nothing where one is none. */
export function readShares(text: string): number[] | null {
  const words = text
    .replaceAll("%", " ")
    .split(/[\s;]+/)
    .filter(Boolean);
  const shares = words.map((word) => Number(word.replace(",", ".")) / 100);
  return words.length && shares.every((share) => share > 0 && share <= 1) ? shares : null;
}
