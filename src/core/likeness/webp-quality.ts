/** The coarsest quantiser index (RFC 6386, section 9.6). */
const coarsest = 127;

/**
 * The quality from 0 to 100 at which the usual encoder of WebP quantises so, within a few steps: its index falls with the cube root of a share
 * of the quality, half of which belongs to the qualities above 75.
 * @param quantiser 0 (finest) to 127, the mean over the picture
 */
export function webpQuality(quantiser: number): number {
  const share = (1 - quantiser / coarsest) ** 3;
  return Math.round(100 * (share < 0.5 ? share * 1.5 : (1 + share) / 2));
}
