/** A rectangle, in CSS px of a page or in px of a picture. */
export interface Rectangle {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** The part of a rectangle that lies in another; undefined where they do not overlap. */
export function intersect(a: Rectangle, b: Rectangle): Rectangle | undefined {
  const x = Math.max(a.x, b.x);
  const y = Math.max(a.y, b.y);
  const width = Math.min(a.x + a.width, b.x + b.width) - x;
  const height = Math.min(a.y + a.height, b.y + b.height) - y;
  return width > 0 && height > 0 ? { x, y, width, height } : undefined;
}

/** Area that rectangles cover together, each place counted once. CSS px². */
export function unionArea(rectangles: readonly Rectangle[]): number {
  const edges = [...new Set(rectangles.flatMap(({ x, width }) => [x, x + width]))].sort((a, b) => a - b);
  let area = 0;
  for (let index = 1; index < edges.length; index++) {
    const [left, right] = [edges[index - 1] ?? 0, edges[index] ?? 0];
    const middle = (left + right) / 2;
    const columns = rectangles.filter(({ x, width }) => x < middle && middle < x + width);
    area += (right - left) * coveredLength(columns);
  }
  return area;
}

/** Length that rectangles cover from top to bottom, gaps left out. */
function coveredLength(columns: readonly Rectangle[]): number {
  const sorted = [...columns].sort((a, b) => a.y - b.y);
  let covered = 0;
  let end = Number.NEGATIVE_INFINITY;
  for (const { y, height } of sorted) {
    covered += Math.max(0, y + height - Math.max(y, end));
    end = Math.max(end, y + height);
  }
  return covered;
}
