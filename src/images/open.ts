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
  // What stands in the fourth byte is nothing in most bitmaps.
  return sharp(data, { raw: { width, height, channels: 4 }, limitInputPixels: mostPixels }).removeAlpha();
}
