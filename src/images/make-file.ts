import sharp from 'sharp';
import { removableKinds } from '../core/plan/removable.js';
import type { FileToMake, ImageFile } from '../core/run/index.js';
import { cleanVector } from './clean-vector.js';
import { bareFile } from './containers/bare.js';
import { decodeAt, encode, type Recipe } from './encode.js';
import { Original } from './likeness.js';
import { measureOrder } from './measure-order.js';
import { lightestPng, ownRecipe } from './measure-width.js';

export interface MadeFile {
  content: Buffer;
  /** Likeness to the master at that width, dB; undefined where nothing was lost or nothing is to be compared. */
  decibels?: number;
}

/**
 * Makes a file as it was measured: by the same decoder, the same encoder and the same setting, so that it has the bytes that were promised.
 * @param master the file that it is made from, as the run knows it
 * @throws {Error} when it cannot be made, with the reason
 */
export async function makeFile(
  content: Buffer,
  { recipe, width, format, quality }: FileToMake,
  master: ImageFile,
): Promise<MadeFile> {
  switch (recipe) {
    case 'bare': {
      const { orientation = 1 } = await sharp(content).metadata();
      const goes = new Set(removableKinds(master, false).map(([kind]) => kind));
      return {
        content: bareFile(content, format, (kind) => !goes.has(kind), master.turned ? orientation : 1),
      };
    }
    case 'cleaned': {
      const cleaned = await cleanVector(content, master.width);
      if (!cleaned) throw new Error('no cleaned version looks the same');
      return { content: Buffer.from(cleaned.text) };
    }
    case 'animation': {
      const animated = sharp(content, { animated: true });
      return { content: await animated.webp(quality === null ? { lossless: true } : { quality }).toBuffer() };
    }
    case 'cropped':
    case 'still':
      throw new Error('where to cut needs a person’s eye');
    default:
      return encodeAt(content, { recipe, width, format, quality }, master);
  }
}

async function encodeAt(
  content: Buffer,
  { recipe, width, format, quality }: Pick<FileToMake, 'recipe' | 'width' | 'format' | 'quality'>,
  master: ImageFile,
): Promise<MadeFile> {
  const order = measureOrder(master, { widths: [width], looks: 0, formats: [], drawings: [] });
  const pixels = await decodeAt(content, width, order.alpha);
  if (recipe === 'resized') {
    const own = ownRecipe(order);
    if (own) return { content: await encode(pixels, own) };
    if (quality === null)
      throw new Error(`${master.format.toUpperCase()} files do not tell how they were encoded`);
  }
  const original = new Original(pixels);
  if (format === 'png') return { content: await lightestPng(original, encode) };
  const made = await encode(pixels, { format: format as Recipe['format'], quality });
  return quality === null ? { content: made } : { content: made, decibels: await original.decibels([made]) };
}
