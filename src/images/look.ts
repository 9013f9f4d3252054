import { lookSide } from '../core/likeness/index.js';
import { limitSeconds } from './encode.js';
import { openPicture } from './open.js';

/**
 * A picture so small that only what it shows is left, as levels of red, green and blue.
 * @throws {Error} when the picture does not decode
 */
export async function tinyLook(content: Buffer): Promise<number[]> {
  const data = await openPicture(content)
    .timeout({ seconds: limitSeconds })
    .autoOrient()
    .toColourspace('srgb')
    .flatten({ background: '#fff' })
    .resize({ width: lookSide, height: lookSide, fit: 'fill' })
    .raw()
    .toBuffer();
  return [...data];
}
