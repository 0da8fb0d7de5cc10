import { contours } from "d3-contour";

const UNKNOWN = -1e3;

/** Path of the line where a grid crosses zero; ``x`` and ``y`` lay columns and rows out. Unknown counts as far below. */
export function zeroLine(grid: (number | null)[][], x: (column: number) => number, y: (row: number) => number): string {
  const columns = grid[0]?.length ?? 0;
  const rows = grid.length;
  if (!columns) return "";
  const flat = grid.flat().map((value) => value ?? UNKNOWN);
  const [found] = contours().size([columns, rows]).thresholds([0])(flat);
  // the border of the area runs along the edge of the grid too: only what lies inside is a contour
  const inside = ([a, b]: number[]) => a! > 0.01 && b! > 0.01 && a! < columns - 0.01 && b! < rows - 0.01;
  return (found?.coordinates ?? [])
    .flatMap((polygon) => polygon)
    .flatMap((ring) =>
      ring.map((point, i) => {
        const pen = i && inside(point) && inside(ring[i - 1]!) ? "L" : "M";
        return `${pen}${x(point[0]! - 0.5).toFixed(1)} ${y(point[1]! - 0.5).toFixed(1)}`;
      }),
    )
    .join("");
}
