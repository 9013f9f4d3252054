import sharp from 'sharp';
import { layOutSheet } from '../core/layout/sheet-layout.js';
import type { IconSheet } from '../core/run/index.js';

/**
 * Draws small pictures onto one PNG and weighs it.
 * @throws {Error} when one of them does not decode
 */
export async function makeIconSheet(
  icons: readonly { url: string; width: number; height: number; content: Buffer }[],
): Promise<IconSheet> {
  const { width, height, places } = layOutSheet(
    icons.map(({ url, width, height }) => ({ url, width, height })),
  );
  const contents = new Map(icons.map(({ url, content }) => [url, content]));
  const layers = await Promise.all(
    places.map(async (place) => ({
      input: await sharp(contents.get(place.url))
        .resize({ width: place.width, height: place.height, fit: 'fill' })
        .png()
        .toBuffer(),
      left: place.x,
      top: place.y,
    })),
  );
  const sheet = sharp({
    create: { width, height, channels: 4, background: { r: 0, g: 0, b: 0, alpha: 0 } },
  }).composite(layers);
  const png = await sheet.png({ palette: true, compressionLevel: 9 }).toBuffer();
  return { width, height, bytes: png.length, places };
}
