import sharp, { type Sharp } from 'sharp';
import { busiestRegion, lumaOf, type Pixels, type Region } from '../core/likeness/index.js';
import { decodeAt, encode, type Recipe } from './encode.js';
import { mostPixels } from './facts.js';
import { labelImage } from './label.js';

/** One variant of a picture, and what is written above it. */
export interface Tile {
  recipe: Recipe;
  label: string;
}

/** Side of the part that is shown of each, px. */
const side = 300;
const gap = 12;
const labelHeight = 30;
const tilesInRow = 4;

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
      part: await cut(sharp(await encode(original, recipe), { limitInputPixels: mostPixels }), region),
    })),
  );
  const whole = sharp(original.data, {
    raw: { width: original.width, height: original.height, channels: original.channels },
  });
  const all = [{ label: order.originalLabel, part: await cut(whole, region) }, ...variants];
  const columns = Math.min(tilesInRow, all.length);
  const rows = Math.ceil(all.length / columns);
  const [cellWidth, cellHeight] = [side + gap, side + labelHeight + gap];
  const layers = all.flatMap(({ label, part }, index) => {
    const left = gap + (index % columns) * cellWidth;
    const top = gap + Math.floor(index / columns) * cellHeight;
    return [
      { input: labelImage(label, side, labelHeight), left, top },
      { input: part, left, top: top + labelHeight },
    ];
  });
  return sharp({
    create: {
      width: gap + columns * cellWidth,
      height: gap + rows * cellHeight,
      channels: 3,
      background: '#f4f4f2',
    },
  })
    .composite(layers)
    .png({ compressionLevel: 9 })
    .toBuffer();
}

function around({ x, y }: { x: number; y: number }, { width, height }: Pixels): Region {
  const part = { width: Math.min(side, width), height: Math.min(side, height) };
  const place = (share: number, whole: number, length: number) =>
    Math.round(Math.max(0, Math.min(whole - length, share * whole - length / 2)));
  return { x: place(x, width, part.width), y: place(y, height, part.height), ...part };
}

function cut(picture: Sharp, { x, y, width, height }: Region): Promise<Buffer> {
  return picture.toColourspace('srgb').extract({ left: x, top: y, width, height }).png().toBuffer();
}
