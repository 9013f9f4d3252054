/** One measured size of a picture. */
export interface CurvePoint {
  /** Device px. */
  width: number;
  bytes: number;
}

/**
 * Bytes at any width from a few measured ones. Bytes grow with a power of the width that differs from picture to picture, so
 * between two points the logarithm of the bytes is straight over the logarithm of the width; beyond the ends the nearest
 * stretch goes on.
 * @throws {RangeError} without points
 */
export function byteCurve(points: readonly CurvePoint[]): (width: number) => number {
  const sorted = [...new Map(points.map((point) => [point.width, point])).values()].sort(
    (a, b) => a.width - b.width,
  );
  const [first, second] = sorted;
  if (!first) throw new RangeError('A byte curve needs at least one point.');
  if (!second) return (width) => first.bytes * (width / first.width) ** usualPower;
  return (width) => {
    const above = sorted.findIndex((point) => point.width >= width);
    const index = Math.max(1, above < 0 ? sorted.length - 1 : above);
    const low = sorted[index - 1] ?? first;
    const high = sorted[index] ?? second;
    const part = Math.log(width / low.width) / Math.log(high.width / low.width);
    return Math.exp(Math.log(low.bytes) + part * Math.log(high.bytes / low.bytes));
  };
}

/** Where only one size is known: bytes ∝ pixels^0.8, in the middle of what pictures do. */
const usualPower = 1.6;
