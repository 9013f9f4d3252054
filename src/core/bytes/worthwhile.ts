import type { TrifleLimits } from './trifles.js';

/**
 * Bytes grow with at most this power of the number of pixels; so a smaller version is never smaller than the file × pixel
 * ratio to this power.
 */
const steepest = 1.03;

/** Whether a narrower version could save more than a trifle, by the steepest curve that real pictures have. */
export function canBeWorthwhile(bytes: number, from: number, to: number, options: TrifleLimits): boolean {
  if (to >= from) return false;
  const most = bytes * (1 - (to / from) ** (2 * steepest));
  return most >= options.trifleBytes && most >= bytes * options.trifleShare;
}
