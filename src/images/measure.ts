import {
  drawingSigns,
  flatSigns,
  losslessContent,
  lossyContent,
  type PictureContent,
  type Pixels,
} from '../core/likeness/index.js';
import type { KnownSetting } from '../core/pricing/estimated-files.js';
import { mostProbedPixels } from '../core/bytes/probe-plan.js';
import { canCompare } from './likeness.js';
import { measureAnimation } from './animation.js';
import { encode as encodePixels, glanceWidth, middleOf } from './encode.js';
import type { Measured, MeasureOrder } from './measure-order.js';
import { measureWidth } from './measure-width.js';
import { Source } from './source.js';
import { measureVector } from './vector.js';

/**
 * Measures by real encodes what a picture weighs at several widths, at equal looks.
 * @param encode stands for the encoder where its calls are to be watched, or another one makes the files
 * @param samples whether it takes any pixels; one that knows the picture only makes it whole
 * @throws {Error} when the picture does not decode, or an encoder takes too long
 */
export async function measurePicture(
  content: Buffer,
  order: MeasureOrder,
  encode: typeof encodePixels = encodePixels,
  samples = true,
): Promise<Measured> {
  if (order.format === 'svg') return measureVector(content, order);
  if (order.frames > 1) return measureAnimation(content, order);
  const widths = [...new Set(order.widths)]
    .filter((width) => canCompare({ width, height: (width * order.height) / order.width }))
    .sort((a, b) => b - a);
  const source = new Source(content, order.alpha);
  const kind = await kindOf(source, order);
  const result: Measured = { content: kind, alike: [], formats: {}, notes: [] };
  // Each from the file itself: whoever makes one of them gets the very bytes that were measured.
  for (const width of widths)
    await measureWidth(await source.at(width), { order, kind, result, encode, samples });
  result.alike.reverse();
  for (const points of Object.values(result.formats)) points.reverse();
  if (order.ownSize && order.width * order.height <= mostProbedPixels)
    await measureOwnSize(await source.at(order.width), result, encode);
  for (const setting of order.settings ?? [])
    await measureSetting(await source.at(setting.width), setting, result, encode);
  return result;
}

/**
 * A file of its own size is encoded with the quality of the widest smaller version: compared with the file itself it would be compared with
 * that one's faults.
 */
async function measureOwnSize(pixels: Pixels, result: Measured, encode: typeof encodePixels): Promise<void> {
  const { width } = pixels;
  for (const [format, points] of Object.entries(result.formats)) {
    const widest = points.at(-1);
    if (!widest || widest.quality === null || widest.width >= width || !isLossy(format)) continue;
    const { quality } = widest;
    const encoded = await encode(pixels, { format, quality });
    points.push({ width, bytes: encoded.length, ownSize: true, quality, decibels: null });
  }
}

async function measureSetting(
  pixels: Pixels,
  { recipe, format, quality }: KnownSetting,
  { alike, formats }: Measured,
  encode: typeof encodePixels,
): Promise<void> {
  if (!isLossy(format)) return;
  const { length: bytes } = await encode(pixels, { format, quality });
  const point = { width: pixels.width, bytes, quality, decibels: null };
  if (recipe === 'resized') alike.push(point);
  else (formats[format] ??= []).push({ ...point, ownSize: true });
}

const isLossy = (format: string): format is 'jpeg' | 'webp' | 'avif' =>
  format === 'jpeg' || format === 'webp' || format === 'avif';

/** Losslessly stored pictures show their kind from pixel to pixel, at their own size; of others an encoder has blurred the steps. */
async function kindOf(source: Source, order: MeasureOrder): Promise<PictureContent> {
  if (order.lossless) return losslessContent(flatSigns(await middleOf(source.content, order)));
  const glance = Math.min(order.width, glanceWidth);
  return lossyContent(drawingSigns(await source.at(glance)));
}
