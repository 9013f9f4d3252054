import sharp from 'sharp';
import type { Placeholder } from '../core/run/index.js';
import { limitSeconds } from './encode.js';
import { openPicture } from './open.js';

/** A tiny copy may be so long as a data URL, bytes. */
const mostInlined = 400;
/** Sides of tiny copies that are tried, px; the largest that fits is taken. */
const tinySides = [32, 24, 20, 16, 12, 8, 6, 4];
const tinyQuality = 40;

/**
 * Makes what could stand in for a picture while it is awaited: its main colour, a gradient and a tiny copy.
 * @throws {Error} when the picture does not decode
 */
export async function makePlaceholder(content: Buffer): Promise<Placeholder> {
  const small = await openPicture(content)
    .timeout({ seconds: limitSeconds })
    .autoOrient()
    .toColourspace('srgb')
    .flatten({ background: '#fff' })
    .resize({ width: 64, height: 64, fit: 'inside' })
    .png()
    .toBuffer();
  const { dominant } = await sharp(small).stats();
  return {
    colour: hex([dominant.r, dominant.g, dominant.b]),
    gradient: await gradientOf(small),
    inlined: await tinyCopy(small),
  };
}

const hex = (levels: readonly number[]) =>
  `#${levels.map((level) => Math.round(level).toString(16).padStart(2, '0')).join('')}`;

type Colour = [number, number, number];

/** From top to bottom or from left to right, whichever shows more of the picture; three colours. */
async function gradientOf(small: Buffer): Promise<string> {
  const [down, across] = await Promise.all([bands(small, 1, 3), bands(small, 3, 1)]);
  return spread(down) >= spread(across)
    ? `linear-gradient(${down.map(hex).join(', ')})`
    : `linear-gradient(90deg, ${across.map(hex).join(', ')})`;
}

async function bands(small: Buffer, width: number, height: number): Promise<Colour[]> {
  const { data } = await sharp(small)
    .resize({ width, height, fit: 'fill' })
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return Array.from({ length: width * height }, (_, index) => [
    data[index * 3] ?? 0,
    data[index * 3 + 1] ?? 0,
    data[index * 3 + 2] ?? 0,
  ]);
}

const spread = ([first, , last]: readonly Colour[]) =>
  first && last ? first.reduce((sum, level, index) => sum + Math.abs(level - (last[index] ?? 0)), 0) : 0;

/** The largest tiny copy whose data URL is short enough; WebP or AVIF, whichever is shorter. */
async function tinyCopy(small: Buffer): Promise<string | null> {
  for (const side of tinySides) {
    const tiny = sharp(small).resize({ width: side, height: side, fit: 'inside' });
    const encoded = await Promise.all([
      tiny
        .clone()
        .webp({ quality: tinyQuality })
        .toBuffer()
        .then((bytes) => dataUrl('webp', bytes)),
      tiny
        .clone()
        .avif({ quality: tinyQuality, effort: 0, chromaSubsampling: '4:2:0' })
        .toBuffer()
        .then((bytes) => dataUrl('avif', bytes)),
    ]);
    const [shortest] = encoded.sort((a, b) => a.length - b.length);
    if (shortest !== undefined && shortest.length <= mostInlined) return shortest;
  }
  return null;
}

const dataUrl = (format: string, bytes: Buffer) => `data:image/${format};base64,${bytes.toString('base64')}`;
