import sharp, { type Sharp } from 'sharp';
import type { Rectangle } from '../core/layout/rectangle.js';
import { busiestRegion, lumaOf, type Pixels } from '../core/likeness/index.js';
import { decodeAt, encode, type Recipe } from './encode.js';
import { mostPixels } from './open.js';
import { tileSheet } from './tile-sheet.js';

/** One variant of a picture, and what is written above it. */
export interface Tile {
  recipe: Recipe;
  label: string;
}

/** Side of the part that is shown of each, px. */
const side = 300;

export interface SideBySideOrder {
  alpha: boolean;
  /** Width at which the variants are made, px; at most the picture's own. */
  width: number;
  /** Middle of the part that is shown, as shares of width and height; where most happens if left out. */
  middle?: { x: number; y: number };
  originalLabel: string;
  tiles: readonly Tile[];
}

/**
 * Lays the same part of the original and of each variant side by side, dot for dot, as a PNG.
 * @throws {Error} when the picture does not decode
 */
export async function sideBySide(content: Buffer, order: SideBySideOrder): Promise<Buffer> {
  const original = await decodeAt(content, order.width, order.alpha);
  const region = order.middle
    ? around(order.middle, original)
    : busiestRegion(lumaOf(original), { width: side, height: side });
  const variants = await Promise.all(
    order.tiles.map(async ({ recipe, label }) => ({
      label,
      picture: await cut(sharp(await encode(original, recipe), { limitInputPixels: mostPixels }), region),
    })),
  );
  const whole = sharp(original.data, {
    raw: { width: original.width, height: original.height, channels: original.channels },
  });
  const shown = [{ label: order.originalLabel, picture: await cut(whole, region) }, ...variants];
  return tileSheet(shown, { width: side, height: side });
}

function around({ x, y }: { x: number; y: number }, { width, height }: Pixels): Rectangle {
  const part = { width: Math.min(side, width), height: Math.min(side, height) };
  const place = (share: number, whole: number, length: number) =>
    Math.round(Math.max(0, Math.min(whole - length, share * whole - length / 2)));
  return { x: place(x, width, part.width), y: place(y, height, part.height), ...part };
}

function cut(picture: Sharp, { x, y, width, height }: Rectangle): Promise<Buffer> {
  return picture.toColourspace('srgb').extract({ left: x, top: y, width, height }).png().toBuffer();
}
