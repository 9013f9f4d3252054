/** One measured size of a picture. */
export interface CurvePoint {
  /** Device px. */
  width: number;
  bytes: number;
}

/**
 * Bytes at any width from a few measured ones. Bytes grow with a power of the width, and the power changes slowly: the logarithm of the
 * bytes over the logarithm of the width is nearly straight between two points, and bends as it does at the points around. Half of that
 * bend is believed, which fits best (docs/pricing.md). Beyond the ends the nearest stretch goes
 * straight on, as far as pictures do.
 * @throws {RangeError} without points
 */
export function byteCurve(points: readonly CurvePoint[]): (width: number) => number {
  const sorted = [...new Map(points.map((point) => [point.width, point])).values()].sort(
    (a, b) => a.width - b.width,
  );
  const [first] = sorted;
  if (!first) throw new RangeError('A byte curve needs at least one point.');
  if (sorted.length === 1) return (width) => first.bytes * (width / first.width) ** usualPower;
  const knots = sorted.map(({ width, bytes }): Knot => ({ x: Math.log(width), y: Math.log(bytes) }));
  return (width) => Math.exp(curveAt(knots, Math.log(width)));
}

interface Knot {
  x: number;
  y: number;
}

const rise = (low: Knot, high: Knot) => (high.y - low.y) / (high.x - low.x);

/** How much of the bend that three points show is believed between two of them. */
const believed = 0.5;

function curveAt(knots: readonly Knot[], x: number): number {
  const above = knots.findIndex((knot) => knot.x >= x);
  const index = Math.max(1, above < 0 ? knots.length - 1 : above);
  const [low, high] = [knots[index - 1] as Knot, knots[index] as Knot];
  if (x < low.x) return low.y + believable(rise(low, high)) * (x - low.x);
  if (x > high.x) return high.y + believable(rise(low, high)) * (x - high.x);
  const straight = low.y + rise(low, high) * (x - low.x);
  const bends = [bendAt(knots, index - 1), bendAt(knots, index)].filter((bend) => bend !== undefined);
  if (bends.length === 0) return straight;
  const bend = bends.reduce((sum, each) => sum + each, 0) / bends.length;
  return straight + believed * bend * (x - low.x) * (x - high.x);
}

/** Half the second derivative of the parabola through a knot and its two neighbours; undefined at the ends. */
function bendAt(knots: readonly Knot[], index: number): number | undefined {
  const [before, here, after] = [knots[index - 1], knots[index], knots[index + 1]];
  if (!before || !here || !after) return undefined;
  return (rise(here, after) - rise(before, here)) / (after.x - before.x);
}

/**
 * Beyond what was measured the bytes of any picture grow with a power of the width between these two: a stretch between two sizes that were
 * held against other likenesses may fall.
 */
const [flattest, steepest] = [0.8, 2.2];

const believable = (power: number) => Math.min(steepest, Math.max(flattest, power));

/** Where only one size is known: bytes ∝ pixels^0.8, in the middle of what pictures do. */
const usualPower = 1.6;
