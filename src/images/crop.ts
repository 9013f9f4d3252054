import { busiestRegion, lumaOf } from '../core/likeness/index.js';
import type { Crop, ImageFile } from '../core/run/index.js';
import { decodeAt } from './encode.js';

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
