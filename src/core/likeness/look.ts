/** Sides of the tiny picture by which two files are compared, px. */
export const lookSide = 8;

/** Levels that two tiny pictures of one picture may differ by on the average, of 255: what scaling and encoders do. */
const mostApart = 6;

/**
 * Whether two tiny pictures of 8 × 8 px, three channels each, are of one picture: whatever the files are called, at whatever size and in
 * whatever format they are stored.
 */
export function looksLike(one: ArrayLike<number>, other: ArrayLike<number>): boolean {
  if (one.length !== other.length || one.length === 0) return false;
  let sum = 0;
  for (let index = 0; index < one.length; index++) sum += Math.abs((one[index] ?? 0) - (other[index] ?? 0));
  return sum / one.length <= mostApart;
}
