import sharp, { type Sharp } from 'sharp';
import type { MeasuredEncode } from '../core/run/index.js';
import { mostPixels } from './facts.js';

export interface EncodeOrder {
  url: string;
  format: string;
  /** Device px, each at most the picture's own width. */
  widths: readonly number[];
}

/** Formats that can be encoded here, with the everyday quality of each. */
const qualities: Record<string, number | null> = { jpeg: 73, webp: 80, avif: 60, png: null };

export const canEncode = (format: string) => format in qualities;

const limitSeconds = 60;

/**
 * Encodes a picture at several widths in its own format, from one decode: each width is made from the next larger one.
 * @throws {Error} when the picture does not decode or takes too long
 */
export async function encodeLadder(content: Buffer, order: EncodeOrder): Promise<MeasuredEncode[]> {
  const quality = qualities[order.format] ?? null;
  const widths = [...new Set(order.widths)].sort((a, b) => b - a);
  const largest = widths[0];
  if (largest === undefined) return [];
  const decoded = sharp(content, { limitInputPixels: mostPixels })
    .timeout({ seconds: limitSeconds })
    .autoOrient()
    .toColourspace('srgb');
  let { data, info } = await decoded
    .resize({ width: largest, fastShrinkOnLoad: false })
    .raw()
    .toBuffer({ resolveWithObject: true });
  const results: MeasuredEncode[] = [];
  for (const width of widths) {
    const raw = { raw: { width: info.width, height: info.height, channels: info.channels } };
    if (width !== info.width) {
      ({ data, info } = await sharp(data, raw).resize({ width }).raw().toBuffer({ resolveWithObject: true }));
    }
    const scaled = sharp(data, { raw: { width: info.width, height: info.height, channels: info.channels } });
    const encoded = await encodeAs(scaled.timeout({ seconds: limitSeconds }), order.format, quality);
    results.push({ url: order.url, format: order.format, width, quality, bytes: encoded.length });
  }
  return results.reverse();
}

function encodeAs(picture: Sharp, format: string, quality: number | null): Promise<Buffer> {
  const options = quality === null ? {} : { quality };
  switch (format) {
    case 'jpeg':
      return picture.jpeg({ ...options, progressive: true }).toBuffer();
    case 'webp':
      return picture.webp(options).toBuffer();
    case 'avif':
      return picture.avif({ ...options, effort: 0, chromaSubsampling: '4:2:0' }).toBuffer();
    default:
      return picture.png({ compressionLevel: 9, adaptiveFiltering: true }).toBuffer();
  }
}
