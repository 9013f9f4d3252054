import type { Screen } from '../run/types.js';

/** The density up to which pictures are to be sharp; denser screens need no more. Infinity for each screen's own. */
export type Sharpness = number;

/** Device px per CSS px that a screen is to get. */
export const sharpDensity = ({ density }: Pick<Screen, 'density'>, sharpness: Sharpness): number =>
  Math.min(density, sharpness);

/** A picture of less than this share of the px that are needed across looks blurred. */
const sharpEnough = 0.75;

/**
 * Whether a file is too small to look sharp.
 * @param fileWidth device px
 * @param neededWidth device px
 */
export const looksBlurred = (fileWidth: number, neededWidth: number): boolean =>
  fileWidth < neededWidth * sharpEnough;
