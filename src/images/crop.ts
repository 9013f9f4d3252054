import { busiestRegion, lumaOf } from '../core/likeness/index.js';
import type { Crop, CropFile, ImageFile } from '../core/run/index.js';
import { decodeAt } from './encode.js';
import { measureOrder, plainFormat, type Measured, type MeasureOrder } from './measure-order.js';
import { openPicture } from './open.js';

/** Looked at this wide a picture shows where most happens, px. */
const lookedAt = 800;

/**
 * The part of a wide picture in which most happens, at its full height.
 * @param ratio of width to height of the part
 * @throws {Error} when the picture does not decode
 */
export async function findCrop(content: Buffer, { width, height }: ImageFile, ratio: number): Promise<Crop> {
  const pixels = await decodeAt(content, Math.min(width, lookedAt), false);
  const part = { width: Math.round(pixels.height * ratio), height: pixels.height };
  const found = busiestRegion(lumaOf(pixels), part);
  const scale = width / pixels.width;
  const cropWidth = Math.min(width, Math.round(height * ratio));
  return {
    x: Math.min(width - cropWidth, Math.round(found.x * scale)),
    y: 0,
    width: cropWidth,
    height,
    of: { width, height },
  };
}

/**
 * A part of a picture as a picture of its own, stored without loss.
 * @throws {Error} when the picture does not decode
 */
export function cutOut(content: Buffer, { x, y, width, height }: Crop): Promise<Buffer> {
  return openPicture(content)
    .autoOrient()
    .toColourspace('srgb')
    .extract({ left: x, top: y, width, height })
    .png({ compressionLevel: 1 })
    .toBuffer();
}

/** What is known of a crop as a picture of its own: its pixels carry the losses of the file that it is cut from. */
export const cropFacts = (master: ImageFile, { width, height }: Crop): ImageFile => ({
  ...master,
  format: 'png',
  width,
  height,
  palette: false,
  turned: false,
});

/**
 * The order to measure a crop at the widths that screens need, px, in the newest format that is wished and in the plain one.
 */
export function cropOrder(
  master: ImageFile,
  crop: Crop,
  { widths, looks, formats }: { widths: readonly number[]; looks: number; formats: readonly string[] },
): MeasureOrder {
  const possible = [...new Set(widths.map((width) => Math.min(width, crop.width)))];
  const wanted = [...formats.slice(0, 1), plainFormat(master)];
  return measureOrder(cropFacts(master, crop), {
    widths: possible,
    looks,
    formats: wanted,
    drawings: formats,
  });
}

/** The files that a measured crop can be offered as, newer formats first; of each format every width. */
export function cropFiles(
  { formats }: Pick<Measured, 'formats'>,
  { widths }: Pick<MeasureOrder, 'widths'>,
): CropFile[] {
  const whole = Object.entries(formats).filter(([, points]) => points.length === widths.length);
  const weight = (points: readonly { bytes: number }[]) => points.reduce((sum, { bytes }) => sum + bytes, 0);
  return whole
    .sort(([one], [other]) => newness(one) - newness(other))
    .filter(([, points], index, all) =>
      // What is heavier than a plainer format serves nobody.
      all.slice(index + 1).every(([, plainer]) => weight(points) < weight(plainer)),
    )
    .flatMap(([format, points]) =>
      points.map(({ width, bytes, quality, decibels }) => ({ width, format, bytes, quality, decibels })),
    );
}

const order = ['avif', 'webp', 'jpeg', 'png'];
const newness = (format: string) => order.indexOf(format);
