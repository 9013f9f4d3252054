import sharp from 'sharp';
import type { PricePoint } from '../core/run/index.js';
import { limitSeconds } from './encode.js';
import { mostPixels } from './open.js';
import type { Measured, MeasureOrder } from './measure-order.js';

/** Pixels of all pictures of an animation that are encoded; of longer ones the first pictures stand for the rest. */
const mostAnimatedPixels = 24_000_000;

const lossyQuality = 75;

/** Measures what an animation weighs as an animated WebP: lossy and lossless are both tried, the smaller one counts. */
export async function measureAnimation(content: Buffer, order: MeasureOrder): Promise<Measured> {
  const { width, height, frames } = order;
  const pages = Math.max(1, Math.min(frames, Math.floor(mostAnimatedPixels / Math.max(1, width * height))));
  const open = () =>
    sharp(content, { pages, limitInputPixels: mostPixels }).timeout({ seconds: limitSeconds });
  const lossy = await open().webp({ quality: lossyQuality }).toBuffer();
  const lossless = await open().webp({ lossless: true }).toBuffer();
  const smaller = lossy.length <= lossless.length ? lossy : lossless;
  const point: PricePoint = {
    width,
    bytes: Math.round((smaller.length * frames) / pages),
    quality: smaller === lossy ? lossyQuality : null,
    decibels: null,
  };
  const notes =
    pages < frames
      ? [`Only the first ${pages} of ${frames} pictures were encoded; the rest is estimated from them.`]
      : [];
  return { content: 'graphic', alike: [], formats: { webp: [point] }, notes };
}
