import { decode } from 'bmp-ts';
import sharp, { type Sharp, type SharpOptions } from 'sharp';

/** Pictures with more pixels than this are not decoded: 268 megapixels, as browsers draw the line. */
export const mostPixels = 268_402_689;

export const isBitmap = (content: Buffer) => content.toString('latin1', 0, 2) === 'BM';

/**
 * Opens a picture file of any kind that browsers show.
 * @throws {Error} when a bitmap does not decode; of other files the decoder says so once it is asked for pixels
 */
export function openPicture(content: Buffer, options: SharpOptions = {}): Sharp {
  if (!isBitmap(content)) return sharp(content, { limitInputPixels: mostPixels, ...options });
  const { data, width, height } = decode(content, { toRGBA: true });
  // What stands in the fourth byte is nothing in most bitmaps: as transparency it would hide the picture.
  const pixels = new Uint8Array(width * height * 3);
  for (let from = 0, to = 0; to < pixels.length; from += 4, to += 3)
    pixels.set([data[from] ?? 0, data[from + 1] ?? 0, data[from + 2] ?? 0], to);
  return sharp(pixels, { raw: { width, height, channels: 3 }, limitInputPixels: mostPixels });
}
